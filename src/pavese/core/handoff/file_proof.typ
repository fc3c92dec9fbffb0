// The proof of a mail or a deck. Everything shown comes from data.json.
#let d = json("data.json")
#let faces = ("Commissioner", "Commissioner Ext", "Commissioner Cyrillic", "Commissioner Cyrillic Ext", "Commissioner Greek", "Commissioner Vietnamese")
#let mono = ("Spline Sans Mono", ..faces)
#let quiet = luma(90)
#set document(title: d.title)
#set page(paper: "a4", margin: 14mm, numbering: "1 of 1", footer: context text(size: 7pt, fill: quiet)[#d.name, in the colors of #d.kit #h(1fr) #counter(page).display()])
#set text(font: faces, size: 8.5pt, lang: "en", fill: rgb("#121212"), hyphenate: false, fallback: false)
#heading(level: 1, text(size: 15pt, d.title))
#text(fill: quiet)[#d.name, in the colors of #d.kit]
#v(1mm)
#if d.weak == 0 [*Each of the #d.count kinds of text reads on its ground*] else [*#d.weak of the #d.count kinds of text do not read at level AA*] #d.everywhere#if d.unknown > 0 [; #d.unknown more stand on pictures and could not be counted].
#v(2mm)
#for look in d.looks {
  block(breakable: false, width: 100%, below: 5mm, {
    heading(level: 2, text(size: 9.5pt, upper(look.words.first()) + look.words.slice(1)))
    v(1mm)
    grid(columns: (1fr, 1fr), column-gutter: 5mm,
      ..("before", "after").map(side => [
        #box(width: 100%, height: d.high * 1mm, clip: true, stroke: 0.3pt + luma(170), align(top + center, image(look.at(side), width: 100%, height: d.high * 1mm, fit: "contain", alt: look.words + ", " + side)))
        #text(size: 7pt, fill: quiet, side)
      ]))
  })
}
#heading(level: 2, text(size: 9.5pt)[Texts on their grounds])
#text(size: 7.5pt, fill: quiet)[Counted on the file that is handed over (WCAG 2.2, 1.4.3 and 1.4.6), worst first. Ratios are cut, not rounded.]
#v(1mm)
#table(columns: (14mm, 1fr, 22mm, 30mm, 14mm, 14mm, 16mm), stroke: none, inset: (x: 1.5mm, y: 1mm), align: (left, left, left, left, right, right, left),
  table.header(..([], [Text], [Size], [Ink on ground], [Before], [After], [Level]).map(cell => text(size: 7pt, fill: quiet, cell))),
  table.hline(stroke: 0.4pt + luma(120)),
  ..d.texts.map(t => (
    box(fill: rgb(t.ground), stroke: 0.2pt + luma(180), inset: (x: 2mm, y: 0.8mm), text(fill: rgb(t.ink), weight: "bold", "Aa")),
    text(t.text), text(size: 7.5pt, t.size), text(font: mono, size: 7pt, t.ink + " " + t.ground),
    text(font: mono, size: 7.5pt, if t.before == none { "–" } else { t.before }), text(font: mono, size: 7.5pt, t.after),
    text(weight: if t.level == "below AA" { "bold" } else { "regular" }, t.level),
  )).flatten(),
)
