const clock = new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit' })
const day = new Intl.DateTimeFormat('en-GB', {
  day: 'numeric',
  month: 'short',
  hour: '2-digit',
  minute: '2-digit',
})

/** `14:07` today, `3 Nov, 14:07` before. */
export function when(stamp: string): string {
  const at = new Date(stamp)
  const today = new Date().toDateString() === at.toDateString()
  return (today ? clock : day).format(at)
}

/** `00:11` of what comes within the day, whichever date that is: an evening goes on after midnight. */
export function soon(stamp: string): string {
  const at = new Date(stamp)
  return at.getTime() - Date.now() < 20 * 3600_000 ? clock.format(at) : day.format(at)
}

/** `06:12`, `1:04:05`. */
export function clockOf(seconds: number): string {
  const whole = Math.max(Math.round(seconds), 0)
  const two = (n: number) => String(n).padStart(2, '0')
  const hours = Math.floor(whole / 3600)
  const rest = `${two(Math.floor((whole % 3600) / 60))}:${two(whole % 60)}`
  return hours ? `${hours}:${rest}` : rest
}

/** `2 h 30 min`, `45 min`. */
export function spanOf(seconds: number): string {
  const minutes = Math.round(seconds / 60)
  return minutes < 60 ? `${minutes} min` : `${Math.floor(minutes / 60)} h ${minutes % 60} min`
}
