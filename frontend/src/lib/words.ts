// Small words for numbers.

/** A number in at most five letters: “4810”, “300k”, “1.2M”. */
export function brief(number: number): string {
  if (number < 100_000) return String(number)
  return number < 1_000_000 ? `${Math.floor(number / 1000)}k` : `${Math.floor(number / 100_000) / 10}M`
}

/** “1 lane”, “1,200 lanes”, “2 passes”. */
export function counted(number: number, noun: string, many = `${noun}s`): string {
  return `${figure(number)} ${number === 1 ? noun : many}`
}

/** A number as it is written everywhere: “12”, “1,276”. */
export function figure(number: number): string {
  // What needs no commas is not asked for them, which takes a browser its time.
  return Number.isInteger(number) && number >= 0 && number < 1000 ? `${number}` : number.toLocaleString('en')
}

const RIGHT = '\\u0590-\\u08ff\\ufb1d-\\ufdff\\ufe70-\\ufefc'
const TURNED = new RegExp(`[${RIGHT}]+(?:[\\s'’\\-]+[${RIGHT}]+)*`, 'g')
/** A sentence in which names that run from right to left turn nothing around them: numbers beside them stay where they stand. */
export function isolated(text: string): string {
  return text.replace(TURNED, '\u2068$&\u2069')
}
