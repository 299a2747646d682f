import { BENCH_RESPONSE, modelOf, type ChoiceSpec } from '@fulgor/core/catalogue'
import { BENCH_KEY, findSnapshot, holds, type Preset, type ResolvedStage, type StageNode } from '@fulgor/core/preset'
import { edit, landsIn } from '../../state/actions'
import { useAppDispatch, useAppSelector, useAppStore } from '../../state/store'
import { figure } from '../../ui/format'
import { NoteMark } from '../../ui/marks'
import { Pick } from '../../ui/Pick'
import { ReachChoice } from '../../desk/ReachChoice'
import { playsBench } from './bench'
import { kilo } from './ResponseChart'

export function Loss({ lostDb, deepest }: { lostDb: number; deepest: { hz: number; depthDb: number } | null }) {
  return (
    <span className="num">
      {figure(lostDb)} dB{deepest ? ` (${figure(deepest.depthDb, 0)} at ${kilo(deepest.hz)})` : ''}
    </span>
  )
}

/** Says what the lit snapshot plays through this cabinet, and whose microphones are moved. */
export function HeardLine({ preset, stage, heard }: { preset: Preset; stage: StageNode; heard: ResolvedStage }) {
  const dispatch = useAppDispatch()
  const store = useAppStore()
  const lit = useAppSelector((s) => s.editor.snapshot)
  const snapshot = findSnapshot(preset, lit)
  const own = snapshot !== undefined && holds(preset, stage.id, BENCH_KEY, snapshot.id)
  const name = snapshot?.name ?? preset.name
  const spec = modelOf('cabinet').params.response as ChoiceSpec
  const playing = spec.options.find((o) => o.value === heard.params.response)?.label
  const play = () =>
    dispatch(
      edit({
        type: 'setParam',
        stage: stage.id,
        snapshot: landsIn(store.getState(), stage.id, 'response'),
        param: 'response',
        value: BENCH_RESPONSE,
      }),
    )
  return (
    <div className="my-0.5 text-[12px]">
      <p className="flex flex-wrap items-baseline gap-x-2" data-heard={playsBench(heard) ? (own ? 'own' : 'bench') : 'response'}>
        {playsBench(heard) ? (
          <span>
            “{name}” plays {own ? 'microphones of its own' : 'this blend'}
            {heard.on ? '.' : '; the cabinet is off in it.'}
          </span>
        ) : (
          <>
            <span>
              <NoteMark /> “{name}” plays “{playing}”.
            </span>
            <button type="button" className="act" onClick={play}>
              Play the bench
            </button>
          </>
        )}
        {own && (
          <button
            type="button"
            className="act"
            onClick={() => dispatch(edit({ type: 'resetCell', stage: stage.id, snapshot: snapshot.id, param: BENCH_KEY }))}
          >
            To the base
          </button>
        )}
      </p>
      <ReachChoice preset={preset} stage={stage} param={BENCH_KEY} />
    </div>
  )
}

export function CabChoice({ spec, value, onChange }: { spec: ChoiceSpec; value: string; onChange: (value: string) => void }) {
  const words = (option: string, label: string) =>
    spec.label === 'Drivers' ? `${label} driver${option === '1' ? '' : 's'}` : spec.label === 'Back' ? `${label} back` : label
  return (
    <Pick
      label={spec.label}
      value={value}
      options={spec.options.map((o) => [o.value, words(o.value, o.label)] as const)}
      className="border-b border-control font-medium"
      onChange={onChange}
    />
  )
}
