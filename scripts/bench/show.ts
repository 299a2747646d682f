// A large show by rule: 30 songs, 200 changes over eight snapshots and four single stages of one preset, on 12 switches and 4 banks.
import { demoDevices, demoPresets, demoShows } from '@fulgor/core/demo'
import { changesOf, layoutBound, layoutProblem, planPresses, proposeLayout, type LayoutJob, type Plan } from '@fulgor/core/plan'
import { CAPACITIES, EMPTY_BOARD, type Preset } from '@fulgor/core/preset'
import { blankOrder, blankShow, blankSong, presetsOf, type Show, type SongPart } from '@fulgor/core/show'

const { preset: pit } = demoPresets[0]
const names = ['a', 'b', 'c', 'd', 'e', 'f', 'g', 'h']
const eight: Preset = {
  ...pit,
  board: EMPTY_BOARD,
  controls: [],
  snapshots: names.map((id) => ({ id, name: id, stages: {} })),
}
const stages = ['drive', 'delay', 'hall', 'gate']
let seed = 11
const random = () => (seed = (seed * 48_271) % 2_147_483_647) / 2_147_483_647
const songs = Array.from({ length: 30 }, (_, s) => {
  const parts = Array.from({ length: s < 20 ? 9 : 8 }, (_, k): SongPart => {
    const moves = random() < 0.25 ? [{ do: 'stage' as const, stage: stages[Math.floor(4 * random())], at: 0, on: random() < 0.5 }] : []
    const sound = { preset: 'big', snapshot: names[Math.floor(8 * random() ** 1.4)] }
    return { id: `${s}-${k}`, name: `Part ${k}`, at: 32 * k, length: 32, sound, sung: random() < 0.4, handsFull: false, moves }
  })
  return { ...blankSong(`s${s}`, `Song ${s}`), tempo: 80 + Math.round(80 * random()), parts }
})
const show: Show = {
  ...blankShow('Big'),
  songs,
  orders: [{ ...blankOrder('o', 'Night'), items: songs.map((s) => ({ song: s.id, cue: '', gap: 30 })) }],
}
const presets = [{ id: 'big', preset: eight }]
const { capacity } = CAPACITIES[2]

const laid = (job: LayoutJob) => {
  let ids = 0
  const from = performance.now()
  const search = proposeLayout(job, () => `n${++ids}`)
  for (;;) {
    const { value, done } = search.next()
    if (done) return { proposal: value, ms: performance.now() - from }
  }
}
const from = performance.now()
const changes = changesOf(show, 'o')
planPresses(show, 'o', presets, capacity)
const planMs = performance.now() - from
const big = laid({ show, order: 'o', presets, locked: {}, snapshots: false, capacity })
const bound = layoutBound(layoutProblem(changes, presets[0], presets, new Set(), capacity))
const [{ document: salt }] = demoShows
const demo = laid({
  show: salt,
  order: 'evening',
  presets: presetsOf(salt).flatMap((id) => demoPresets.filter((p) => p.id === id)),
  locked: {},
  snapshots: true,
  capacity: demoDevices[0].document.capacity,
})
const figures = ({ presses, sung, troubles }: Plan) => ({ presses, sung, troubles })
console.log(
  JSON.stringify({
    changes: changes.length,
    planMs,
    ms: big.ms,
    over: (big.proposal.boards[0]?.layout.cost ?? 0) / bound - 1,
    after: figures(big.proposal.after),
    demo: { before: figures(demo.proposal.before), after: figures(demo.proposal.after), ms: demo.ms },
  }),
)
