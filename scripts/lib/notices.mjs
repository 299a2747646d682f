// Who made what is inside, under which licence: written into the built page as third-party.txt.
import { spawnSync } from 'node:child_process'
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'

const HEAD = `Fulgor: what of others is inside

Everything below is used as its authors published it, unchanged, under the licence that stands with it.

The reader of FLAC files contains codec-parser, which is under the GNU Lesser General Public License, version 3 or later. It lies in a
script of its own (assets/import.worker-….js), fetched only when files are imported. To use another version of it, put it into
node_modules/codec-parser and run “npm run build”; everything else stays as it is.
`
const LINE = '-'.repeat(100)

/** Packages that the page and the server run with, by name. */
function packages(root) {
  const { stdout } = spawnSync('npm', ['query', '.prod'], { cwd: root, encoding: 'utf8', maxBuffer: 1e9 })
  const all = JSON.parse(stdout).filter((p) => p.location.startsWith('node_modules/') && !p.name.startsWith('@fulgor/'))
  return [...new Map(all.map((p) => [`${p.name} ${p.version}`, p])).values()].sort((a, b) => a.name.localeCompare(b.name, 'en'))
}

function licenceText(folder) {
  const file = readdirSync(folder).find((name) => /^(licen[cs]e|copying)/i.test(name))
  return file ? readFileSync(join(folder, file), 'utf8').trim() : 'The package brings no text of its licence along.'
}

export function writeNotices(root, file) {
  const entries = packages(root)
    .filter(({ location }) => existsSync(join(root, location)))
    .map(
      ({ name, version, license, location }) =>
        `${LINE}\n${name} ${version}: ${license ?? 'licence not told'}\n\n${licenceText(join(root, location))}\n`,
    )
  writeFileSync(file, [HEAD, ...entries].join('\n'))
  return entries.length
}
