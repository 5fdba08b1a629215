// The TypeScript parser over one program for all files: read file by file, every component's types would be worked out anew.
import { readFileSync } from 'node:fs'
import ts from 'typescript'
import tseslint from 'typescript-eslint'

const ROOT = import.meta.dirname
const COMPONENTS = [{ extension: 'vue', isMixedContent: true, scriptKind: ts.ScriptKind.Deferred }]

/** What stands in a component's script, as the component's own parser cuts it out. */
function scriptOf(file) {
  return /<script\b[^>]*>(.*?)<\/script>/s.exec(readFileSync(file, 'utf8'))?.[1] ?? ''
}

function programOfAll() {
  const read = ts.readConfigFile(`${ROOT}/tsconfig.json`, ts.sys.readFile)
  const all = ts.parseJsonConfigFileContent(read.config, ts.sys, ROOT, {}, undefined, undefined, COMPONENTS)
  const options = { ...all.options, incremental: false, tsBuildInfoFile: undefined, allowNonTsExtensions: true }
  const host = ts.createCompilerHost(options, true)
  const sourceOf = host.getSourceFile.bind(host)
  host.getSourceFile = (file, how, ...rest) =>
    file.endsWith('.vue')
      ? ts.createSourceFile(file, scriptOf(file), how, true, ts.ScriptKind.TS)
      : sourceOf(file, how, ...rest)
  return ts.createProgram({ rootNames: all.fileNames, options, host })
}

let program

/** What has changed since the program was made, as in an editor, is read by itself; so is a template, which asks no types. */
export function parseForESLint(code, options) {
  const { project, filePath } = options
  program ??= project && programOfAll()
  const isTheSame = project && program.getSourceFile(filePath)?.text === code
  return tseslint.parser.parseForESLint(code, isTheSame ? { ...options, project: null, programs: [program] } : options)
}

export const meta = { name: 'velmot/one-program', version: '1' }
