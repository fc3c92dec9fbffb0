// A kit's sheet as a press proof: crop and register marks, a control strip, hairlines, step numbers.
#let d = json("data.json")
#let w = d.words
#let ink = luma(20)
#let quiet = luma(85)
#let hair = 0.35pt + luma(70)
#let faces = ("Commissioner", "Commissioner Ext", "Commissioner Cyrillic", "Commissioner Cyrillic Ext", "Commissioner Greek", "Commissioner Vietnamese")
#let mono = ("Spline Sans Mono", ..faces)
#let face(name) = (name, ..faces)

#set document(title: d.title, date: datetime(year: d.day.at(0), month: d.day.at(1), day: d.day.at(2)))
#set text(font: faces, size: 9pt, lang: d.language, fill: ink, hyphenate: false, number-width: "tabular", fallback: false)
#set par(leading: 0.5em, spacing: 0.7em)
#show heading.where(level: 1): it => block(above: 0pt, below: 5mm, {
  text(size: 15pt, weight: "bold", it.body)
  v(-2mm)
  line(length: 100%, stroke: hair)
})
#show heading.where(level: 2): it => block(above: 6mm, below: 2.5mm, text(size: 10pt, weight: "bold", it.body))

// ── marks ──────────────────────────────────────────────────────────────────────────────────────────────────────
#let crop(at, dx, dy) = place(at, dx: dx, dy: dy, {
  let far = 5mm
  place(line(start: (0mm, 0mm), end: (if dx > 0mm { -far } else { far }, 0mm), stroke: hair))
  place(line(start: (0mm, 0mm), end: (0mm, if dy > 0mm { -far } else { far }), stroke: hair))
})
#let register(at, dx: 0mm, dy: 0mm) = place(at, dx: dx, dy: dy, box(width: 5mm, height: 5mm, {
  place(center + horizon, circle(radius: 1.5mm, stroke: hair))
  place(center + horizon, line(length: 5mm, stroke: hair))
  place(center + horizon, line(length: 5mm, angle: 90deg, stroke: hair))
}))
#let strip = grid(
  columns: d.strip.len() * (1fr,),
  ..d.strip.map(c => rect(width: 100%, height: 4mm, fill: rgb(c), stroke: none)),
)
#let wedge = grid(
  columns: 11 * (4mm,),
  ..range(11).map(i => rect(width: 4mm, height: 4mm, fill: luma(100% - i * 10%), stroke: 0.2pt + luma(150))),
)
#let missing = if d.missing { block(above: 4mm, text(size: 7.5pt, fill: quiet, w.missing)) }
#set page(
  paper: "a4",
  margin: (x: 20mm, top: 27mm, bottom: 27mm),
  background: {
    crop(top + left, 14mm, 14mm)
    crop(top + right, -14mm, 14mm)
    crop(bottom + left, 14mm, -14mm)
    crop(bottom + right, -14mm, -14mm)
    register(top + center, dy: 5mm)
    register(bottom + center, dy: -5mm)
    register(left + horizon, dx: 5mm)
    register(right + horizon, dx: -5mm)
  },
  header: text(size: 7.5pt, grid(
    columns: (1fr, auto),
    [#strong(d.name) #h(2mm) #d.edition, #d.date], [#text(font: mono, fill: quiet, d.digest)],
  )),
  footer: context text(size: 7.5pt, grid(
    columns: (46mm, 1fr, 12mm),
    column-gutter: 3mm,
    align: (left + horizon, left + horizon, right + horizon),
    wedge, strip, [#counter(page).display() / #counter(page).final().first()],
  )),
)

#let swatch(c, height) = rect(width: 100%, height: height, fill: rgb(c), stroke: if c in ("#ffffff",) { hair } else { none })
#let part(name) = d.parts.at(name, default: none)
#let some(name) = { let p = part(name); p != none and p.len() > 0 }
#let codes(list) = text(font: mono, size: 7pt, fill: quiet, list.join(linebreak()))

// ── colors ─────────────────────────────────────────────────────────────────────────────────────────────────────
#let sections = ()
#if part("colors") != none {
  sections.push([
    = #w.colors
    #if d.note != "" [#text(style: "italic", d.note) #v(3mm)]
    #grid(
      columns: (1fr, 1fr, 1fr),
      column-gutter: 6mm,
      row-gutter: 6mm,
      ..part("colors").map(c => block(breakable: false, width: 100%, {
        swatch(c.hex, if part("colors").len() > 12 { 18mm } else { 30mm })
        v(-1mm)
        grid(
          columns: (1fr, auto),
          strong(c.name), text(size: 7pt, fill: quiet, str(c.step)),
        )
        text(size: 8pt, fill: quiet, c.role)
        linebreak()
        codes(c.codes)
        if c.note != "" { linebreak(); text(size: 7.5pt, c.note) }
      })),
    )
    #if d.naive { v(4mm); text(size: 7.5pt, fill: quiet, w.cmyk) }
  ])
}

// ── ramps ──────────────────────────────────────────────────────────────────────────────────────────────────────
#if part("ramps") != none {
  let r = part("ramps")
  sections.push([
    = #w.ramps
    #table(
      columns: (26mm,) + r.steps.len() * (1fr,),
      stroke: none,
      inset: 0pt,
      row-gutter: 1.2mm,
      table.header([], ..r.steps.map(s => align(center, pad(bottom: 1mm, text(size: 7pt, fill: quiet, str(s)))))),
      ..r.rows.map(row => (
        align(horizon, pad(right: 2mm, text(size: 8pt, row.name))),
        ..row.cells.map(c => box(width: 100%, height: 13mm, fill: rgb(c.hex), {
          place(center + horizon, text(font: mono, size: 4.6pt, fill: rgb(c.ink), c.hex))
          if c.mark == "base" { place(top + center, dy: 1.6mm, circle(radius: 0.7mm, fill: rgb(c.ink))) }
          if c.mark == "pinned" { place(top + center, dy: 1.6mm, polygon(fill: rgb(c.ink), (0mm, 1.3mm), (1.5mm, 1.3mm), (0.75mm, 0mm))) }
        })),
      )).flatten(),
    )
  ])
}

// ── pairs and trios ────────────────────────────────────────────────────────────────────────────────────────────
#if part("pairs") != none or some("trios") {
  sections.push([
    #if part("pairs") != none [
      = #w.pairs
      #if part("pairs").len() == 0 [#w.at("no pairs")]
      #grid(
        columns: (1fr, 1fr),
        column-gutter: 6mm,
        row-gutter: 5mm,
        ..part("pairs").map(p => block(breakable: false, width: 100%, {
          block(width: 100%, fill: rgb(p.fill), inset: 4mm, stroke: 0.2pt + luma(200), below: 1.4mm, {
            set text(fill: rgb(p.ink))
            text(size: 15pt, weight: "bold", d.samples.headline)
            linebreak()
            text(size: 9pt, d.samples.sentence)
          })
          grid(
            columns: (1fr, auto, auto),
            column-gutter: 3mm,
            text(size: 8pt, [#p.text / #p.ground]), text(size: 8pt, fill: quiet, p.use), strong(text(size: 8pt, p.ratio + " : 1")),
          )
          if p.note != "" { text(size: 7.5pt, fill: quiet, p.note) }
        })),
      )
    ]
    #if some("trios") [
      #heading(level: if part("pairs") != none { 2 } else { 1 }, w.trios)
      #grid(
        columns: (1fr, 1fr, 1fr, 1fr),
        column-gutter: 4mm,
        row-gutter: 4mm,
        ..part("trios").map(t => block(breakable: false, width: 100%, {
          block(width: 100%, height: 16mm, fill: rgb(t.colors.at(0)), inset: 3mm, stroke: 0.2pt + luma(200), below: 1mm, {
            place(left + horizon, text(size: 13pt, weight: "bold", fill: rgb(t.colors.at(1)), "Aa"))
            place(right + horizon, circle(radius: 3.4mm, fill: rgb(t.colors.at(2))))
          })
          text(size: 6.5pt, fill: quiet, t.names.slice(1).join(", ") + " / " + t.names.at(0))
        })),
      )
    ]
  ])
}

// ── use ────────────────────────────────────────────────────────────────────────────────────────────────────────
#let use = ()
#if part("rules") != none { use.push([#heading(level: 2, w.rules) #list(..part("rules").map(r => [#r]), marker: [–])]) }
#if part("proportions") != none {
  let p = part("proportions")
  let unit = 38mm
  use.push([
    #heading(level: 2, w.proportions + " " + p.slots.map(s => str(s.share)).join(" / "))
    #grid(
      columns: 4 * (auto,),
      column-gutter: 5mm,
      align: bottom,
      ..p.layouts.map(l => box(width: unit, height: l.height * unit, clip: true, stroke: 0.2pt + luma(200), {
        for b in l.boxes { place(top + left, dx: b.at(1) * unit, dy: b.at(2) * unit, rect(width: b.at(3) * unit, height: b.at(4) * unit, fill: rgb(p.slots.at(b.at(0)).hex), stroke: none)) }
        for t in l.lines { place(top + left, dx: t.at(1) * unit, dy: (t.at(2) - t.at(3)) * unit, text(size: t.at(3) * unit, fill: rgb(p.slots.at(t.at(0)).ink), t.at(4))) }
      })),
    )
  ])
}
#if some("see-through") {
  use.push([
    #heading(level: 2, w.at("see-through"))
    #for s in part("see-through") {
      block(breakable: false, {
        text(size: 8pt, s.title)
        grid(
          columns: s.steps.len() * (1fr,),
          ..s.steps.map(x => align(center, text(size: 6pt, fill: quiet, str(x.step)))),
          ..s.steps.map(x => rect(width: 100%, height: 6mm, fill: rgb(x.solid), stroke: none)),
          ..s.steps.map(x => box(width: 100%, height: 9mm, fill: rgb(s.base), {
            place(rect(width: 100%, height: 100%, fill: rgb(x.fill.at(0)).transparentize(100% - x.fill.at(1) * 1%), stroke: none))
          })),
          ..s.steps.map(x => pad(top: 0.8mm, align(center, text(font: mono, size: 4.2pt, fill: quiet, x.code)))),
        )
      })
    }
  ])
}
#if some("states") {
  use.push([
    #heading(level: 2, w.states)
    #for c in part("states") {
      grid(
        columns: 5 * (1fr,),
        column-gutter: 4mm,
        ..c.looks.map(x => block(breakable: false, {
          let ring = if x.ring != none { 1.2pt + rgb(x.ring) } else { none }
          box(stroke: ring, outset: 1.2mm, rect(width: 100%, height: 8mm, fill: rgb(x.fill), stroke: none, align(center + horizon, text(size: 8pt, fill: rgb(x.ink), x.state))))
          v(-0.5mm)
          text(size: 6.5pt, fill: quiet, x.token + ", " + x.ratio)
        })),
      )
      v(2mm)
    }
  ])
}
#if part("logo") != none and (part("logo").grounds.len() > 0 or part("logo").faces.len() > 0) {
  let l = part("logo")
  use.push([
    #heading(level: 2, w.logo + ", " + lower(w.type))
    #grid(
      columns: 4 * (1fr,),
      column-gutter: 4mm,
      row-gutter: 3mm,
      ..l.grounds.map(g => block(breakable: false, width: 100%, {
        block(width: 100%, height: 24mm, fill: rgb(g.ground), stroke: 0.2pt + luma(200), below: 1mm, align(center + horizon, {
          let high = calc.min(9mm, 26mm / g.shape)
          let picture = image(g.file, height: high, alt: d.name)
          if g.behind != none { box(fill: rgb(g.behind), radius: l.round * 1%, inset: high * l.padding / 100, picture) } else { picture }
        }))
        text(size: 6.5pt, fill: quiet, g.name + ", " + g.ratio + " : 1")
      })),
    )
    #text(size: 8pt, l.clear)
    #for f in l.faces { block(below: 2mm, [#text(size: 8pt, fill: quiet, f.use) #h(2mm) #text(font: face(f.face), size: 12pt, f.name) #h(2mm) #text(size: 7.5pt, fill: quiet, f.why)]) }
  ])
}
#if some("sources") { use.push([#heading(level: 2, w.sources) #text(size: 7.5pt, list(..part("sources").map(s => [#s]), marker: [–]))]) }
#if use.len() > 0 {
  sections.push({
    heading(level: 1, w.at("in use"))
    use.join()
  })
}

#sections.join(pagebreak())
#missing
