// Choices: what can be chosen in a field of a request, in the words that its table has for them.
import { CHOICES } from './table'

export interface Choice {
  value: string | number | boolean
  words: string
  title?: string
  off?: boolean
}
export type ChoiceField = keyof typeof CHOICES

const isSwitch = (words: readonly { value: string }[]) => words.every((one) => one.value === 'yes' || one.value === 'no')

/** The choices of a field; a switch's are yes and no. */
export function choicesOf(field: ChoiceField): Choice[] {
  const { words } = CHOICES[field]
  const of = (value: string) => (isSwitch(words) ? value === 'yes' : value)
  return words.map((one) => ({ value: of(one.value), words: one.words }))
}

/** What a field is called on a sheet. */
export const calledOf = (field: ChoiceField): string => CHOICES[field].label
