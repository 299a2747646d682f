// Everything that must hold: kernels, types, lint and import boundaries, unit tests, browser tests on the production build. Installs
// what is missing, Debian's chromium too. Ends with the line `N passed, N failed`.
import { spawnSync } from 'node:child_process'
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs'
import { join, relative } from 'node:path'
import { ensureBuilt, ensureInstalled, root } from './lib/setup.mjs'

ensureInstalled()
ensureChromium()
spawnSync('node', ['scripts/build-kernel.mjs'], { cwd: root, stdio: 'inherit' })
const reports = join(root, 'test-results')
rmSync(reports, { recursive: true, force: true })
mkdirSync(reports, { recursive: true })

let passed = 0
let failed = 0
/** What failed, told again where a log's end is all that is read. */
const broken = []

/** A step that passes or fails as one. */
function step(name, command, args) {
  console.log(`\n— ${name}`)
  const { status } = spawnSync(command, args, { cwd: root, stdio: 'inherit' })
  if (status === 0) passed++
  else {
    failed++
    broken.push(name)
  }
}

/** A step whose report counts its own tests; a step that reports nothing has failed. */
function suite(name, command, args, report, count, env = {}) {
  console.log(`\n— ${name}`)
  const { status } = spawnSync(command, args, { cwd: root, stdio: 'inherit', env: { ...process.env, ...env } })
  if (!existsSync(report)) {
    failed++
    broken.push(`${name}: no report`)
    return
  }
  const [good, bad] = count(JSON.parse(readFileSync(report, 'utf8')))
  if (status !== 0 && bad.length === 0) bad.push(`${name}: ended with ${status}`)
  passed += good
  failed += bad.length
  broken.push(...bad)
}

step('types', 'npm', ['run', '--silent', 'typecheck'])
step('lint and import boundaries', 'npm', ['run', '--silent', 'lint'])
const unit = join(reports, 'unit.json')
suite('unit tests', 'npx', ['vitest', 'run', '--reporter=default', '--reporter=json', `--outputFile.json=${unit}`], unit, (r) => [
  r.numPassedTests,
  r.testResults.flatMap(({ name, status, message, assertionResults }) => {
    const file = relative(root, name)
    const tests = assertionResults.filter((test) => test.status === 'failed')
    if (tests.length === 0) return status === 'failed' ? [`${file}: ${message}`] : []
    return tests.map((test) => `${file} › ${test.fullName}\n    ${test.failureMessages.join('\n').slice(0, 400)}`)
  }),
])
ensureBuilt()
const browser = join(reports, 'browser.json')
suite(
  'browser tests',
  'npx',
  ['playwright', 'test', '--config', 'e2e/playwright.config.ts'],
  browser,
  (r) => [r.stats.expected + r.stats.flaky, r.suites.flatMap(unexpected)],
  {
    PLAYWRIGHT_JSON_OUTPUT_NAME: browser,
  },
)

if (broken.length > 0) console.log(`\nFailed:\n${broken.map((line) => `  ${line}`).join('\n')}`)
console.log(`\n${passed} passed, ${failed} failed`)
process.exit(failed === 0 ? 0 : 1)

/** The names of a browser suite's tests that did not end as they should. */
function unexpected({ suites = [], specs = [] }) {
  return [...specs.filter((spec) => !spec.ok).map((spec) => `e2e/${spec.file} › ${spec.title}`), ...suites.flatMap(unexpected)]
}

/** The browser of the tests is Debian's own; nothing is downloaded from elsewhere. */
function ensureChromium() {
  if (existsSync(process.env.CHROMIUM ?? '/usr/bin/chromium')) return
  console.log('Installing Debian’s chromium …')
  const sudo = process.getuid?.() === 0 ? [] : ['sudo']
  for (const args of [
    ['apt-get', 'update', '-qq'],
    ['apt-get', 'install', '-y', '-qq', '--no-install-recommends', 'chromium'],
  ]) {
    const [command, ...rest] = [...sudo, ...args]
    const { status } = spawnSync(command, rest, {
      stdio: ['ignore', 'ignore', 'inherit'],
      env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
    })
    if (status !== 0) {
      console.error('Debian’s chromium could not be installed; install the package “chromium”, or set CHROMIUM to a Chromium’s path.')
      process.exit(1)
    }
  }
}
