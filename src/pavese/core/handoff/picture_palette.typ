// A picture with its palette. Everything shown comes from data.json.
#let d = json("data.json")
#let faces = ("Commissioner", "Commissioner Ext", "Commissioner Cyrillic", "Commissioner Cyrillic Ext", "Commissioner Greek", "Commissioner Vietnamese")
#let mono = ("Spline Sans Mono", ..faces)
#let wide = d.shape > 1.15
#let across = if wide { 190mm } else { 130mm }
#let tall = across / d.shape
#set document(title: d.title)
#set page(width: 297mm, height: auto, margin: 12mm, fill: white)
#set text(font: faces, size: 9pt, fill: rgb("#121212"), hyphenate: false, fallback: false)
#let dot(p) = place(dx: p.x * across - 3mm, dy: p.y * tall - 3mm, circle(radius: 3mm, fill: rgb(p.hex), stroke: 0.8pt + white,
  align(center + horizon, text(size: 7pt, weight: "bold", font: mono, fill: rgb(p.ink), str(p.number)))))
#grid(columns: (across, 1fr), column-gutter: 8mm,
  [
    #box(width: across, height: tall, {
      place(image("picture.svg", width: across, height: tall, fit: "stretch", alt: d.title))
      for p in d.pins { dot(p) }
    })
    #v(1mm)
    #for line in d.rights [#text(size: 7pt, fill: luma(90), line) \ ]
  ],
  {
    heading(level: 1, text(size: 14pt, d.title))
    text(fill: luma(90), [#d.colors.len() #if d.colors.len() == 1 [color] else [colors]#if d.kit != "" [ for #d.kit]])
    v(2mm)
    for c in d.colors {
      block(breakable: false, width: 100%, below: 2.2mm, grid(columns: (18mm, 1fr), column-gutter: 3mm, align: horizon,
        rect(width: 18mm, height: 13mm, fill: rgb(c.hex), stroke: 0.2pt + luma(180), inset: 1.2mm,
          if c.number != none { text(size: 7pt, weight: "bold", font: mono, fill: rgb(c.ink), str(c.number)) }),
        [#text(weight: "bold", c.name) \ #text(font: mono, size: 8pt, c.codes.join("  ")) \ #text(size: 7.5pt, fill: luma(90), c.about)]))
    }
  })
