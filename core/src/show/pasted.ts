import { blankSound } from './start'
import { PRIORITIES, SOUND_ROLES, soundFields, type NeededSound, type SoundRole } from './description'
import { TEMPO_RANGE } from '@fulgor/core/recording'

/** Words that lead to a role. */
const ROLE_WORDS: readonly (readonly [SoundRole, RegExp])[] = [
  ['high-gain', /high.?gain|metal|heavy|lead/],
  ['acoustic', /acoustic|piezo|steel.?string/],
  ['bass-layer', /bass/],
  ['ambience', /ambien|swell|pad|wash/],
  ['edge', /edge|break.?up|bite/],
  ['crunch', /crunch|drive|dirt|rock/],
  ['clean', /clean|funk|chime/],
]

export const roleOf = (words: string): SoundRole | null =>
  SOUND_ROLES.find((r) => r === words.trim().toLowerCase()) ?? ROLE_WORDS.find(([, shape]) => shape.test(words.toLowerCase()))?.[0] ?? null

/** Names of columns that are understood, by field. */
const COLUMNS: Readonly<Record<string, readonly string[]>> = {
  name: ['name', 'sound', 'title'],
  song: ['song', 'tune', 'track'],
  part: ['part', 'section', 'where'],
  role: ['role', 'kind', 'type'],
  tempo: ['tempo', 'bpm'],
  words: ['words', 'notes', 'note', 'description'],
  priority: ['priority', 'prio', 'need'],
}

export interface Pasted {
  readonly sounds: readonly NeededSound[]
  /** What could not be taken, or not as it stood, by line from 1. */
  readonly problems: readonly { readonly line: number; readonly reason: string; readonly taken: boolean }[]
}

/**
 * Sounds of a table: the first row names the columns, where it does; without such a row the columns are name, song, part, role, tempo,
 * words. A line that is broken is told and left out; a value that is none is told and left open.
 */
export function soundsOf(rows: readonly (readonly string[])[], newId: () => string): Pasted {
  const named = (rows.at(0) ?? []).map((cell) => fieldOf(cell))
  const hasHead = named.includes('name')
  const columns = hasHead ? named : ['name', 'song', 'part', 'role', 'tempo', 'words']
  const sounds: NeededSound[] = []
  const problems: { line: number; reason: string; taken: boolean }[] = []
  rows.forEach((cells, i) => {
    if ((hasHead && i === 0) || cells.every((c) => c.trim() === '')) return
    const of = (field: string) => cells.at(columns.indexOf(field) < 0 ? cells.length : columns.indexOf(field))?.trim() ?? ''
    const tell = (reason: string, taken: boolean) => problems.push({ line: i + 1, reason, taken })
    const name = of('name')
    if (name === '') {
      tell('has no name.', false)
      return
    }
    const role = roleOf(of('role'))
    if (of('role') !== '' && role === null) tell(`“${of('role')}” is no role that is known; it is taken as clean.`, true)
    const tempo =
      of('tempo') === ''
        ? null
        : Number(
            of('tempo')
              .replace(/ ?bpm$/i, '')
              .replace(',', '.'),
          )
    const fits = tempo === null || (tempo >= TEMPO_RANGE[0] && tempo <= TEMPO_RANGE[1])
    if (!fits) tell(`“${of('tempo')}” is no tempo from ${TEMPO_RANGE[0]} to ${TEMPO_RANGE[1]} bpm; it is left open.`, true)
    const priority = PRIORITIES.find((p) => p === of('priority').toLowerCase())
    if (of('priority') !== '' && !priority) tell(`“${of('priority')}” is none of must, should and could; it is taken as must.`, true)
    const cut = (field: 'name' | 'song' | 'part' | 'words') => {
      const value = of(field)
      const { most } = soundFields[field]
      if (value.length > most) tell(`its ${field} is longer than ${most} characters; the rest is left out.`, true)
      return value.slice(0, most)
    }
    sounds.push({
      ...blankSound(newId(), cut('name')),
      song: cut('song'),
      part: cut('part'),
      words: cut('words'),
      role: role ?? roleOf(`${name} ${of('words')}`) ?? 'clean',
      tempo: fits ? tempo : null,
      priority: priority ?? 'must',
    })
  })
  return { sounds, problems }
}

const fieldOf = (cell: string): string => Object.entries(COLUMNS).find(([, names]) => names.includes(cell.trim().toLowerCase()))?.[0] ?? ''
