// Compiles the AssemblyScript kernels and writes them as one TypeScript module, so that page, worker, worklet and Node load
// the same bytes without a fetch. Skipped when the sources have not changed.
import { createHash } from 'node:crypto'
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'

const root = join(dirname(fileURLToPath(import.meta.url)), '..')
const folder = join(root, 'core/kernel')
const target = join(root, 'core/src/signal/kernel/bytes.generated.ts')
const kernels = ['engine', 'matching', 'measuring', 'playing']

// the places of an operation's numbers, by name, for kernel and core alike
const described = readFileSync(join(root, 'core/src/signal/kernel/operations.ts'), 'utf8')
const operations = new Function(`return ${described.slice(described.indexOf('= {') + 2, described.lastIndexOf('}') + 1)}`)()
const upper = (name) => name.replace(/[A-Z]/g, '_$&').toUpperCase()
const constants = Object.entries(operations).flatMap(([operation, places]) =>
  Object.entries(places).map(([name, at]) => `export const ${upper(operation)}_${upper(name)}: i32 = ${at}`),
)
// and the kinds of a row's steps
const listed = readFileSync(join(root, 'core/src/signal/kernel/repeated.ts'), 'utf8')
const kinds = [...listed.slice(listed.indexOf('= {')).matchAll(/(\w+): '/g)].map(([, name]) => name)
constants.push(...kinds.map((name, k) => `export const ROW_${upper(name)}: i32 = ${k + 1}`))
writeFileSync(join(folder, 'operations.generated.ts'), `// written by scripts/build-kernel.mjs\n${constants.join('\n')}\n`)

const hash = createHash('sha256')
  .update(readFileSync(fileURLToPath(import.meta.url)))
  .update(readFileSync(join(root, 'scripts/lib/loops.mjs')))
for (const file of readdirSync(folder, { recursive: true }).sort()) if (file.endsWith('.ts')) hash.update(readFileSync(join(folder, file)))
const stamp = `// ${hash.digest('hex').slice(0, 16)}`

if (!existsSync(target) || !readFileSync(target, 'utf8').startsWith(stamp)) {
  const { default: asc } = await import('assemblyscript/asc')
  const { loops } = await import('./lib/loops.mjs')
  let module = `${stamp}\n/* core/kernel as WebAssembly, base64; written by scripts/build-kernel.mjs. */\n`
  for (const kernel of kernels) {
    let bytes
    const options = ['--optimizeLevel', '3', '--runtime', 'minimal', '--enable', 'simd', '--use', 'abort=']
    const { error, stderr } = await asc.main([join(folder, `${kernel}.ts`), '-o', 'kernel.wasm', ...options], {
      writeFile: (_, data) => (bytes = data),
      transforms: [loops],
    })
    if (error) {
      console.error(stderr.toString())
      process.exit(1)
    }
    module += `export const ${kernel}Base64 =\n  '${Buffer.from(bytes).toString('base64')}'\n`
  }
  writeFileSync(target, module)
}
