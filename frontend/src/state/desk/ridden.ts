// What strips draw of passes that are not saved yet.
import { shallowRef } from 'vue'
import type { Hand } from '../../lib/hands'

/** The hands of all passes that are not saved yet, by parameter. */
export const ridden = shallowRef(new Map<string, Hand[]>())
