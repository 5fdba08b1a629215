// `npm run mutants`: breaks plain TypeScript on purpose, one small break at a time, and counts what its unit tests notice.
//
// Each file with a test beside it is broken in a copy, a break at a time; what survives is listed.
// `node mutants.js 0.2 7` takes a fifth of all breaks, drawn with the seed 7; a third word takes files that have it in them.
import { execFileSync } from 'node:child_process'
import { cpSync, existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import ts from 'typescript'

const ROOT = import.meta.dirname
const SWAPS = new Map([
  ...[['<', '<='], ['<=', '<'], ['>', '>='], ['>=', '>'], ['===', '!=='], ['!==', '==='], ['&&', '||'], ['||', '&&']],
  ...[['+', '-'], ['-', '+'], ['*', '/'], ['/', '*'], ['??', '&&'], ['%', '*']],
]) // prettier-ignore
const NAMES = new Map([['min', 'max'], ['max', 'min'], ['floor', 'ceil'], ['ceil', 'floor'], ['some', 'every'], ['every', 'some']]) // prettier-ignore
const LONGEST = 60_000 // ms

/** Every break of a file: where, and what stands there instead. */
function breaksOf(file) {
  const text = readFileSync(file, 'utf8')
  const source = ts.createSourceFile(file, text, ts.ScriptTarget.Latest, true)
  const found = []
  const put = (start, end, by) => found.push({ file, start, end, by })
  function visit(node) {
    if (ts.isTypeNode(node) || ts.isInterfaceDeclaration(node) || ts.isImportDeclaration(node)) return
    if (ts.isBinaryExpression(node)) {
      const sign = node.operatorToken.getText(source)
      const isText = ts.isStringLiteralLike(node.left) || ts.isStringLiteralLike(node.right) || ts.isTemplateExpression(node.right)
      if (SWAPS.has(sign) && !isText) put(node.operatorToken.getStart(source), node.operatorToken.end, SWAPS.get(sign))
    } else if (ts.isPrefixUnaryExpression(node) && node.operator === ts.SyntaxKind.ExclamationToken) {
      put(node.getStart(source), node.operand.getStart(source), '')
    } else if (ts.isPrefixUnaryExpression(node) && node.operator === ts.SyntaxKind.MinusToken) {
      put(node.getStart(source), node.operand.getStart(source), '')
    } else if (ts.isNumericLiteral(node)) {
      put(node.getStart(source), node.end, `(${node.getText(source)} + 1)`)
    } else if (node.kind === ts.SyntaxKind.TrueKeyword || node.kind === ts.SyntaxKind.FalseKeyword) {
      put(node.getStart(source), node.end, node.kind === ts.SyntaxKind.TrueKeyword ? 'false' : 'true')
    } else if (ts.isPropertyAccessExpression(node) && NAMES.has(node.name.text)) {
      put(node.name.getStart(source), node.name.end, NAMES.get(node.name.text))
    } else if (ts.isConditionalExpression(node)) {
      put(node.condition.getStart(source), node.condition.end, `!(${node.condition.getText(source)})`)
    } else if (ts.isIfStatement(node)) {
      put(node.expression.getStart(source), node.expression.end, `!(${node.expression.getText(source)})`)
    }
    ts.forEachChild(node, visit)
  }
  visit(source)
  return found
}

/** Numbers from 0 to 1 out of a seed. */
function drawn(seed) {
  let state = seed >>> 0
  return () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0
    return state / 2 ** 32
  }
}

const [share = '1', seed = '1', only = ''] = process.argv.slice(2)
const next = drawn(Number(seed))
const files = readdirSync(join(ROOT, 'src'), { recursive: true })
  .filter((name) => name.endsWith('.test.ts'))
  .map((name) => join('src', name))
  .map((test) => test.replace(/\.test\.ts$/, '.ts'))
  .filter((file) => existsSync(join(ROOT, file)) && file.includes(only))
const folder = mkdtempSync(join(tmpdir(), 'velmot-mutants-'))
let [died, lived] = [0, 0]
try {
  for (const part of ['src', 'package.json', 'vite.config.ts', 'tsconfig.json']) {
    if (existsSync(join(ROOT, part))) cpSync(join(ROOT, part), join(folder, part), { recursive: true })
  }
  symlinkSync(resolve(ROOT, 'node_modules'), join(folder, 'node_modules'))
  for (const file of files) {
    const whole = readFileSync(join(ROOT, file), 'utf8')
    const tests = file.replace(/\.ts$/, '.test.ts')
    for (const { start, end, by } of breaksOf(join(ROOT, file)).filter(() => next() < Number(share))) {
      writeFileSync(join(folder, file), whole.slice(0, start) + by + whole.slice(end))
      try {
        const how = { cwd: folder, stdio: 'ignore', timeout: LONGEST }
        execFileSync('node_modules/.bin/vitest', ['run', tests, '--bail', '1'], how)
        lived++
        const line = whole.slice(0, start).split('\n').length
        console.log(`${file}:${line}  ${JSON.stringify(whole.slice(start, end))} → ${JSON.stringify(by)}`)
      } catch {
        died++
      }
    }
    writeFileSync(join(folder, file), whole)
  }
} finally {
  rmSync(folder, { recursive: true })
}
console.log(`${died} of ${died + lived} died`)
process.exitCode = died < 0.9 * (died + lived) ? 1 : 0
