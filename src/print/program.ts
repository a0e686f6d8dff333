/**
 * The program of the typesetter: it walks through {@link PrintDocument}s and sets them. It never changes, and nothing
 * that a person typed becomes part of it: that comes as data, read from `/print.json`, and is set as text.
 *
 * Headings, tables, lists, alternative texts and the reading order become tags of the PDF; what repeats on every page
 * and what is only drawn is marked as such (PDF/UA-1, ISO 14289-1).
 */
export const program = `
#let data = json("/print.json")
#let ink = rgb(data.ink)
#let quiet-ink = rgb(data.quiet)
#let edge = rgb(data.edge)
#let serif = ("Source Serif 4", "Atkinson Hyperlegible Next")
#let sans = ("Atkinson Hyperlegible Next", "Source Serif 4")

#set document(title: data.title)
#set text(lang: "en", font: serif, size: 11pt, fill: ink, hyphenate: false)
#set par(leading: 0.62em, spacing: 0.7em)
#set table(inset: 3pt)

// Mathematics -----------------------------------------------------------------------------------------------------
#let faced(face, body) = {
  if face == "upright" { math.upright(body) }
  else if face == "bold" { math.bold(body) }
  else if face == "double-struck" { math.bb(body) }
  else if face == "script" { math.cal(body) }
  else if face == "fraktur" { math.frak(body) }
  else if face == "sans" { math.sans(body) }
  else if face == "mono" { math.mono(body) }
  else { math.italic(body) }
}
#let set-formula(n) = {
  let k = n.k
  let inside() = set-formula(n.c)
  if k == "row" { for one in n.c { [#set-formula(one)] } }
  else if k == "sign" { [#symbol(n.s)] }
  else if k == "words" { text(n.s) }
  else if k == "name" { math.op(n.s) }
  else if k == "face" { faced(n.face, inside()) }
  else if k == "over" {
    if n.line { math.frac(set-formula(n.a), set-formula(n.b)) }
    else { math.mat(delim: none, (set-formula(n.a),), (set-formula(n.b),)) }
  }
  else if k == "root" { if "index" in n { math.root(set-formula(n.index), inside()) } else { math.sqrt(inside()) } }
  else if k == "attach" {
    let base = if n.limits { math.limits(inside()) } else { math.scripts(inside()) }
    math.attach(
      base,
      t: if "t" in n { set-formula(n.t) } else { none },
      b: if "b" in n { set-formula(n.b) } else { none },
    )
  }
  else if k == "accent" { math.accent(inside(), n.s) }
  else if k == "line" {
    if n.at == "over" { math.overline(inside()) }
    else if n.at == "under" { math.underline(inside()) }
    else if n.at == "brace-over" { math.overbrace(inside()) }
    else { math.underbrace(inside()) }
  }
  else if k == "brackets" { math.lr(for one in n.c { [#set-formula(one)] }) }
  else if k == "grid" {
    let cell(one, side) = {
      if side == "right" { [#set-formula(one)] + $&$.body }
      else if side == "left" { $&$.body + [#set-formula(one)] }
      else { set-formula(one) }
    }
    math.mat(
      delim: none,
      ..n.rows.map(row => row.enumerate().map(((i, one)) => cell(one, n.sides.at(i)))),
    )
  }
  else if k == "space" { h(n.em * 1em) }
  else if k == "style" { if n.display { math.display(inside()) } else { math.inline(inside()) } }
  else if k == "hidden" { hide(inside()) }
  else if k == "struck" { math.cancel(inside()) }
  else if k == "boxed" { box(stroke: 0.5pt + ink, inset: 3pt, baseline: 3pt, math.equation(inside())) }
}

// Within a line ---------------------------------------------------------------------------------------------------
#let marked(body, mark) = {
  if mark == "bold" { text(weight: 600, body) }
  else if mark == "italic" { text(style: "italic", body) }
  else if mark == "underline" { underline(body) }
  else if mark == "code" { text(font: "DejaVu Sans Mono", size: 0.86em, body) }
  else if mark == "super" { super(body) }
  else { sub(body) }
}
#let set-inline(n) = {
  let k = n.k
  if k == "t" { n.at("marks", default: ()).fold(text(n.s), marked) }
  else if k == "br" { linebreak() }
  else if k == "formula" { math.equation(block: false, alt: n.alt, set-formula(n.f)) }
  else if k == "box" {
    // As high as the letters beside it in the line, and drawn beyond that.
    box(
      width: 10pt, height: 7.2pt, outset: (y: 1.4pt), stroke: 0.8pt + ink,
      radius: if n.round { 5pt } else { 0pt },
      fill: if n.full { ink } else { none },
    )
    h(6pt)
  }
  else if k == "place" {
    box(
      width: n.width * 1pt, height: 7.2pt, outset: (top: 5pt, bottom: 3.5pt),
      stroke: if n.line { (bottom: 0.5pt + edge) } else { 0.5pt + edge },
    )
  }
  else if k == "cell" { box(width: n.width * 1pt, for one in n.c { set-inline(one) }) }
  else { h(n.width * 1pt) }
}
#let looking(n, body) = {
  set text(size: n.size * 1pt) if "size" in n
  set text(font: sans) if n.at("sans", default: false)
  set text(fill: quiet-ink) if n.at("quiet", default: false)
  set text(weight: 600) if n.at("strong", default: false)
  if "align" in n { align(if n.align == "right" { right } else { center }, body) } else { body }
}

// On lines of its own ---------------------------------------------------------------------------------------------
#let across(widths) = widths.map(width => if width == 0 { 1fr } else { width * 1pt })
#let set-block(n) = {
  let k = n.k
  let all(blocks) = for one in blocks { set-block(one) }
  if k == "p" {
    looking(n, par(hanging-indent: n.at("hang", default: 0) * 1pt, if n.c.len() == 0 { h(0pt) + sym.zws } else { for one in n.c { set-inline(one) } }))
  }
  // A paragraph holds nothing that has lines of its own: a formula in it would be dropped without a word.
  else if k == "display" { math.equation(block: true, alt: n.alt, set-formula(n.f)) }
  else if k == "h" { heading(level: n.level, text(n.s)) }
  else if k == "stack" {
    let side = n.at("edge", default: "")
    block(
      width: 100%,
      breakable: not n.at("keep", default: false),
      above: n.at("above", default: 7) * 1pt,
      below: 7pt,
      inset: (
        left: (n.at("left", default: 0) + (if side == "bar" or side == "frame" { 7 } else { 0 })) * 1pt,
        right: (n.at("right", default: 0) + (if side == "frame" { 7 } else { 0 })) * 1pt,
        top: if side == "frame" { 7pt } else if side == "above" { 5pt } else { 0pt },
        bottom: if side == "frame" { 7pt } else if side == "below" { 6pt } else { 0pt },
      ),
      stroke: if side == "bar" { (left: 2pt + ink) }
        else if side == "frame" { 0.5pt + edge }
        else if side == "above" { (top: 0.5pt + edge) }
        else if side == "below" { (bottom: 0.8pt + ink) },
      all(n.c),
    )
  }
  else if k == "columns" {
    block(
      width: 100%,
      above: n.at("above", default: 7) * 1pt,
      below: 7pt,
      grid(columns: across(n.widths), column-gutter: n.at("gap", default: 0) * 1pt, row-gutter: n.at("rowGap", default: 0) * 1pt, ..n.c.map(all)),
    )
  }
  else if k == "beside" {
    block(width: 100%, above: 0pt, below: 7pt, inset: (left: n.left * 1pt, right: n.right * 1pt), {
      place(top + left, dx: -n.left * 1pt, box(width: n.left * 1pt, set-block(n.before)))
      all(n.c)
      place(top + right, dx: n.right * 1pt, box(width: n.right * 1pt, set-block(n.behind)))
    })
  }
  else if k == "list" {
    let items = n.c.map(all)
    if n.ordered { enum(..items) } else { list(..items) }
  }
  else if k == "table" {
    let right-columns = n.right
    block(above: 8pt, below: 8pt, width: 100%, table(
      columns: across(n.widths),
      align: (x, y) => if right-columns.contains(x) { right } else { left },
      stroke: if n.grid { 0.5pt + edge } else { (bottom: 0.5pt + edge) },
      ..(if n.head.len() > 0 { (table.header(..n.head.map(all)),) }),
      ..n.rows.sum(default: ()).map(all),
    ))
  }
  else if k == "picture" {
    block(above: 4pt, below: 4pt, image("/pictures/" + n.hash + ".png", alt: n.alt, width: n.width * 1pt, height: n.height * 1pt))
  }
  else if k == "lines" {
    let width = if "width" in n { n.width * 1pt } else { 100% }
    for _ in range(n.count) {
      block(above: 0pt, below: 0pt, width: width, height: n.height * 1pt, stroke: (bottom: 0.5pt + edge))
    }
  }
}

#show heading.where(level: 1): it => block(above: 0pt, below: 6pt, text(font: sans, size: 18pt, weight: 600, it.body))
#show heading.where(level: 2): it => block(above: 16pt, below: 6pt, sticky: true, text(size: 13.5pt, weight: 600, it.body))

// Each document on pages of its own, which it counts by itself ------------------------------------------------------
#let ends(i) = label("end-" + str(i))
#let set-document(i, one) = {
  set page(
    paper: "a4",
    margin: (top: 48pt, bottom: 54pt, x: 54pt),
    footer-descent: 14pt,
    footer: context {
      set text(font: sans, size: 9pt, fill: quiet-ink)
      grid(
        columns: (1fr, auto),
        column-gutter: 12pt,
        text(one.foot),
        [#counter(page).get().first() of #counter(page).at(ends(i)).first()],
      )
    },
  )
  counter(page).update(1)
  for block in one.c { set-block(block) }
  [#metadata(none)#ends(i)]
}
#for (i, one) in data.documents.enumerate() { set-document(i, one) }

// Answer sheets, each thing at its place in millimetres --------------------------------------------------------------
#let squares(flat, ..look) = place(curve(
  ..look,
  ..range(0, flat.len(), step: 3).map(i => {
    let (x, y, half) = (flat.at(i) * 1mm, flat.at(i + 1) * 1mm, flat.at(i + 2) * 0.5mm)
    (
      curve.move((x - half, y - half)), curve.line((x + half, y - half)), curve.line((x + half, y + half)),
      curve.line((x - half, y + half)), curve.close(),
    )
  }).flatten(),
))
#let drawings = data.drawings.map(one => {
  squares(one.corners, fill: black, fill-rule: "even-odd")
  squares(one.boxes, stroke: 0.25mm + ink)
  place(curve(stroke: 0.2mm + edge, ..one.strokes.map(((x, y, u, v)) => (
    curve.move((x * 1mm, y * 1mm)), curve.line((u * 1mm, v * 1mm)),
  )).flatten()))
  for (x, y, size, side, strong, body) in one.labels {
    // The middle of a letter's height lies on the line.
    let words = text(font: sans, size: size * 1mm, weight: if strong { 600 } else { 400 }, top-edge: "cap-height", bottom-edge: "baseline", body)
    let from = if side == "right" { right } else if side == "center" { center } else { left }
    place(dx: x * 1mm - if side == "right" { 20mm } else { 0mm }, dy: y * 1mm - size * 0.35mm, box(width: 20mm, align(from, words)))
  }
})
#let set-answer-sheet(one) = {
  let drawing = data.drawings.at(one.drawing)
  place(dx: one.x * 1mm, dy: one.y * 1mm, box(width: drawing.width * 1mm, height: drawing.height * 1mm, {
    place(dx: drawing.head.at(0) * 1mm, dy: drawing.head.at(1) * 1mm, box(width: drawing.head.at(2) * 1mm, height: drawing.head.at(3) * 1mm, clip: true, {
      set par(leading: 0.5em, spacing: 0.55em)
      set text(size: 8pt)
      // Sheets are found by their titles; only the first page of one carries it as a heading.
      text(size: 11pt, weight: 600, one.title)
      linebreak()
      if one.name == "" [
        #text(size: 10pt)[Name #box(width: 1fr, stroke: (bottom: 0.5pt + edge), height: 8pt)]
      ] else { text(size: 12pt, weight: 600, one.name); if one.note != "" { h(6pt); text(fill: quiet-ink, one.note) } }
      linebreak()
      text(fill: quiet-ink, one.says)
    }))
    place(dx: drawing.code.at(0) * 1mm, dy: drawing.code.at(1) * 1mm, image(bytes(one.code), format: "svg", alt: "Code for the reader: " + one.spelled, width: drawing.code.at(2) * 1mm))
    place(dx: drawing.code.at(0) * 1mm, dy: (drawing.code.at(1) + drawing.code.at(2) + 0.6) * 1mm, text(font: "DejaVu Sans Mono", size: 5pt, fill: quiet-ink, one.spelled))
    drawings.at(one.drawing)
  }))
}
#for name in data.scans {
  page(paper: "a4", margin: 0pt, footer: none, image("/scans/" + name + ".jpg", alt: name, width: 100%, height: 100%, fit: "contain"))
}
#for one in data.papers {
  page(paper: "a4", margin: 0pt, footer: none, { for sheet in one { set-answer-sheet(sheet) } })
}
`;
