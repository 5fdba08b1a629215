// No two modules need each other, by however many steps.
import { expect, it } from 'vitest'

const sources = import.meta.glob<string>(['./**/*.ts', './**/*.vue', '!./api/schema.ts'], {
  query: '?raw',
  import: 'default',
  eager: true,
})

function needed(file: string): string[] {
  const found = [...sources[file]!.matchAll(/(?:from|import)\s*\(?\s*'(\.[^']+)'/g)].map((m) => m[1]!)
  return found.flatMap((path) => {
    const to = new URL(path, `file:///x/${file}`).pathname.replace(/^\/x\//, './')
    return [to, `${to}.ts`, `${to}/index.ts`].filter((name) => name in sources).slice(0, 1)
  })
}

it('has no ring of imports', () => {
  const done = new Set<string>()
  const walk = (file: string, way: string[]): string[] | null => {
    if (way.includes(file)) return [...way.slice(way.indexOf(file)), file]
    if (done.has(file)) return null
    for (const next of needed(file)) {
      const ring = walk(next, [...way, file])
      if (ring) return ring
    }
    done.add(file)
    return null
  }
  for (const file of Object.keys(sources)) expect(walk(file, [])).toBeNull()
  expect(done.size).toBeGreaterThan(150)
})
