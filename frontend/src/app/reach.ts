/** Letters in the order of how well a hand reaches them; o, i and l are left out, which look like figures. */
const ALPHABET = 'fdsajkgheruwcvmtyqpnxbz'
const CONTROLS = 'a[href], button, input, select, textarea, summary'

/** As many different short words as there are controls, none the beginning of another; the first have one letter, as long as that goes. */
export function lettersFor(count: number): string[] {
  const base = ALPHABET.length
  const pairs = Math.max(0, Math.ceil((count - base) / (base - 1))) // letters that begin two-letter words
  const single = Array.from(ALPHABET.slice(0, base - pairs))
  const double = Array.from(ALPHABET.slice(base - pairs)).flatMap((a) => Array.from(ALPHABET, (b) => a + b))
  return [...single, ...double].slice(0, count)
}

/** What can be reached now: of the sheet first, in the order of Tab, then what stands round it. */
export function controls(): HTMLElement[] {
  const found = [...document.querySelectorAll<HTMLElement>(CONTROLS)].filter(
    (one) =>
      one.tabIndex >= 0 &&
      !one.matches(':disabled, [type=hidden]') &&
      !one.closest('[inert]') &&
      one.checkVisibility({ visibilityProperty: true }), // not folded away either
  )
  const rank = (one: HTMLElement) =>
    one.closest('main section, main form, main aside') ? 0 : one.closest('main') ? 1 : 2
  return found.sort((a, b) => rank(a) - rank(b))
}

/** What it says, by which another one in its place is told from it. */
export const saying = (one: HTMLElement): string => one.ariaLabel ?? one.innerText

/** Goes to it: a field takes the focus with what it says chosen, so that it can be typed over; anything else is pressed. */
export function reach(one: HTMLElement): void {
  one.focus()
  if (one instanceof HTMLInputElement && !['checkbox', 'radio', 'file'].includes(one.type)) one.select()
  else if (!(one instanceof HTMLSelectElement || one instanceof HTMLTextAreaElement)) one.click()
}
