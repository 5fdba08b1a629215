// Fields of requests: what each is, what it is called, and the choices there are, in the words that its table has for them.
import { FIELDS } from './table'

export interface Choice {
  value: string | number | boolean
  words: string
  title?: string
  off?: boolean
}
/** What a field's line in the table may say. */
export interface Field {
  kind: string
  label: string
  says: string
  usual?: unknown
  words?: readonly { value: string; words: string }[]
  unit?: string
  least?: number
  most?: number
  /** Whether a request without it is none. */
  needed?: boolean
}
/** A verb and a field of its request. */
export type FieldName = keyof typeof FIELDS
/** A field with choices in words. */
export type ChoiceField = { [K in FieldName]: (typeof FIELDS)[K] extends { words: unknown } ? K : never }[FieldName]

export const fieldOf = (name: FieldName): Field => FIELDS[name]
/** The field's own name in its request. */
export const ownName = (name: FieldName): string => name.slice(name.indexOf('/') + 1)

const isSwitch = (words: readonly { value: string }[]) => words.every((one) => one.value === 'yes' || one.value === 'no')

/** The choices of a field; a switch's are yes and no. */
export function choicesOf(field: ChoiceField): Choice[] {
  const words = fieldOf(field).words ?? []
  const of = (value: string) => (isSwitch(words) ? value === 'yes' : value)
  return words.map((one) => ({ value: of(one.value), words: one.words }))
}

/** What a field is called on a sheet. */
export const calledOf = (field: FieldName): string => fieldOf(field).label

/** A length or a shift as it was typed, with what it means. */
export interface Typed {
  beats: number
  text: string
}
/** A length that nobody typed, in words. */
export const inBeats = (beats: number): Typed => ({ beats, text: `${+beats.toFixed(4)} beats` })
