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
