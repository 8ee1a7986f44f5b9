// What is wrong to look at in the page as it stands now: a list of sentences, empty where nothing is.
const phone = arguments[0]
const said = []
const seen = (e) => e.checkVisibility({ opacityProperty: true, visibilityProperty: true })
const box = (e) => e.getBoundingClientRect()
const says = (e) => `<${e.tagName.toLowerCase()}> “${(e.innerText ?? e.textContent ?? '').trim().slice(0, 50) || e.outerHTML.slice(0, 90)}”`
const hidden = (e) => {
  for (let up = e; up; up = up.parentElement) {
    const style = getComputedStyle(up)
    if (style.position === 'absolute' && (style.clip !== 'auto' || style.clipPath !== 'none')) return true
    if (up.matches('[aria-hidden=true], .sr-only')) return true
    if (up.tagName === 'DETAILS' && !up.open && !e.closest('summary')) return true
  }
  return false
}
const all = [...document.querySelectorAll('body *')].filter((e) => seen(e) && !hidden(e))

// Wider than the window.
if (document.documentElement.scrollWidth > innerWidth + 1) {
  const wide = all.filter((e) => box(e).right > innerWidth + 1 && box(e).width > 0 && !scrolls(e.parentElement))
  said.push(`the page scrolls sideways: ${wide.slice(0, 3).map(says).join(' · ')}`)
}
function scrolls(e) {
  for (let up = e; up && up !== document.body; up = up.parentElement) {
    if (['auto', 'scroll'].includes(getComputedStyle(up).overflowX) && up.scrollWidth > up.clientWidth) return true
  }
  return false
}

// Text: its own, with where it stands.
const texts = []
for (const e of all) {
  for (const node of e.childNodes) {
    if (node.nodeType !== Node.TEXT_NODE || !node.textContent.trim()) continue
    const range = document.createRange()
    range.selectNodeContents(node)
    for (const r of range.getClientRects()) if (r.width > 1 && r.height > 1) texts.push({ e, r })
  }
}
const small = new Map()
for (const { e } of texts) {
  let size = parseFloat(getComputedStyle(e).fontSize)
  const svg = e.closest('svg')
  if (svg && svg.viewBox?.baseVal?.width) size *= box(svg).width / svg.viewBox.baseVal.width
  if (size < 11.9) small.set(e, size)
}
for (const [e, size] of [...small].slice(0, 4)) said.push(`text of ${size.toFixed(1)} px: ${says(e)}`)

// Cut off by what it stands in.
const cut = new Set()
for (const { e, r } of texts) {
  for (let up = e; up && up !== document.body; up = up.parentElement) {
    const style = getComputedStyle(up)
    if (style.overflowX === 'visible' && style.overflowY === 'visible') continue
    const b = box(up)
    const x = style.overflowX === 'hidden' || style.overflowX === 'clip'
    const y = style.overflowY === 'hidden' || style.overflowY === 'clip'
    if ((x && (r.right > b.right + 2 || r.left < b.left - 2)) || (y && (r.bottom > b.bottom + 3 || r.top < b.top - 3))) cut.add(e)
    break
  }
}
for (const e of [...cut].slice(0, 4)) said.push(`cut off: ${says(e)}`)
for (const e of all.filter((e) => e.matches('input, select') && e.scrollWidth > e.clientWidth + 2 && e.type !== 'file').slice(0, 3)) {
  said.push(`a field too narrow for what it holds: “${e.value}”`)
}

// One text over another.
const layer = (e) => {
  for (let up = e; up; up = up.parentElement) {
    const p = getComputedStyle(up).position
    if (p === 'fixed' || p === 'sticky') return up
  }
  return null
}
const high = (r) => r.top + 0.22 * r.height // where letters begin and end in their line
const low = (r) => r.bottom - 0.22 * r.height
const over = new Set()
const sorted = texts.map((t) => ({ ...t, layer: layer(t.e) })).sort((a, b) => a.r.top - b.r.top)
for (let i = 0; i < sorted.length; i++) {
  const a = sorted[i]
  for (let k = i + 1; k < sorted.length && sorted[k].r.top < a.r.bottom; k++) {
    const b = sorted[k]
    if (a.e === b.e || a.layer !== b.layer || a.e.contains(b.e) || b.e.contains(a.e)) continue
    const x = Math.min(a.r.right, b.r.right) - Math.max(a.r.left, b.r.left)
    const y = Math.min(low(a.r), low(b.r)) - Math.max(high(a.r), high(b.r))
    if (x > 2 && y > 1) over.add(`${says(a.e)} and ${says(b.e)}`)
  }
}
for (const pair of [...over].slice(0, 4)) said.push(`one over another: ${pair}`)

// To be pressed with a thumb.
if (phone) {
  const few = all.filter((e) => e.matches('button, a, select, summary, input:not([type=hidden]), [role=tab]') && !e.closest('p, li > span, td > span'))
  for (const e of few) {
    const b = box(e.matches('input[type=checkbox], input[type=radio], input[type=file]') ? (e.closest('label') ?? e) : e)
    const inField = e.tagName === 'INPUT' && box(e.parentElement).height >= 43.5
    if (b.height < 43.5 && !inField && b.width > 0) said.push(`hard to press, ${b.width.toFixed(0)}×${b.height.toFixed(0)}: ${says(e)}`)
  }
}

// Where one lands.
const heading = document.querySelector('main h1, main h2')
if (!heading) said.push('no heading')
else if (scrollY < 2 && (box(heading).top < 0 || box(heading).bottom > innerHeight)) said.push(`heading out of view: ${says(heading)}`)

// A wide window with half of it empty.
if (innerWidth > 1500) {
  const right = Math.max(0, ...texts.map((t) => t.r.right), ...all.filter((e) => e.matches('main svg')).map((e) => box(e).right))
  if (right < innerWidth * 0.7) said.push(`the right ${(100 - (100 * right) / innerWidth).toFixed(0)} % are empty`)
}
return said
