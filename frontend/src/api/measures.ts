/** A time as it is told on the page, and how much room something takes. */
export const clockTime = (at: string) => new Date(at).toLocaleTimeString('en-GB', { timeStyle: 'short' })
export const megabytes = (bytes: number) =>
  bytes < 1e9 ? `${(bytes / 1e6).toFixed(bytes < 1e7 ? 1 : 0)} MB` : `${(bytes / 1e9).toFixed(0)} GB`
