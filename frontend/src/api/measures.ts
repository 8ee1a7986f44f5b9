/** A time as it is told on the page, and how much room something takes. */
export const clockTime = (at: string) => new Date(at).toLocaleTimeString('en-GB', { timeStyle: 'short' })
export function roomFor(bytes: number): string {
  const [size, unit] = bytes < 1e6 ? [bytes / 1e3, 'kB'] : bytes < 1e9 ? [bytes / 1e6, 'MB'] : [bytes / 1e9, 'GB']
  return `${size.toFixed(size < 10 ? 1 : 0)} ${unit}`
}
