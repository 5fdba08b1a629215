// The recipes that are kept, for every session.
import { defineStore } from 'pinia'
import { shallowRef } from 'vue'
import { api, asked, type Schemas } from '../api/client'
import { useSession } from './session'

export const useRecipes = defineStore('recipes', () => {
  const session = useSession()
  const all = shallowRef<Schemas['RecipeLine'][]>([])

  async function fetch(): Promise<void> {
    await session.guarded(async () => {
      all.value = await asked(api.GET('/api/recipes'))
    })
  }
  return { all, fetch }
})
