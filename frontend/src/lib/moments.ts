// Moments: the one it is now, and how another one is said from here.

const two = (n: number) => `${n}`.padStart(2, '0')
const DAYS = ['Sun', 'Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat']

/** The local time, as ISO 8601 says it, to the second. */
export function momentNow(now = new Date()): string {
  const day = `${now.getFullYear()}-${two(now.getMonth() + 1)}-${two(now.getDate())}`
  return `${day}T${two(now.getHours())}:${two(now.getMinutes())}:${two(now.getSeconds())}`
}

/** A moment as people say it: today 14:02, Tue 10:31 of the last week, else with its date; nothing for no moment. */
export function momentText(moment: string, now = new Date()): string {
  const at = new Date(moment)
  if (!moment || Number.isNaN(at.getTime())) return ''
  const time = `${two(at.getHours())}:${two(at.getMinutes())}`
  const midnight = (d: Date) => new Date(d.getFullYear(), d.getMonth(), d.getDate()).getTime()
  const days = Math.round((midnight(now) - midnight(at)) / 86_400_000)
  if (days === 0) return `today ${time}`
  if (days > 0 && days < 7) return `${DAYS[at.getDay()]} ${time}`
  return `${at.getFullYear()}-${two(at.getMonth() + 1)}-${two(at.getDate())} ${time}`
}
