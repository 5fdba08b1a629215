// Small words for numbers.

/** “1 lane”, “1,200 lanes”. */
export function counted(number: number, noun: string): string {
  return `${number.toLocaleString('en')} ${number === 1 ? noun : `${noun}s`}`
}
