import { useEffect, useRef, useState, useSyncExternalStore } from 'react'
import type { GuitarMeasure, GuitarProfile, PickupPosition } from '@fulgor/core/guitar'
import { session } from '../../audio/session'
import { reasonOf } from '../../background/tasks'
import { liveChanged } from '../../state/player'
import { useAppDispatch, useAppSelector } from '../../state/store'
import { renderers } from '../../threads/crews'
import { SAMPLE_RATE } from '../../threads/rate'
import { figure } from '../../ui/format'
import { WarningMark } from '../../ui/marks'
import { PaperDialog } from '../../ui/PaperDialog'
import { Segments } from '../../ui/Segments'
import { MeasureFigures } from './FoundInFile'
import { levelShare } from './scales'

type Step = 'rest' | 'soft' | 'normal' | 'hard'

const STEPS: readonly (readonly [Step, string, string])[] = [
  ['rest', 'Rest', 'Volume and tone at 10, the strings damped with a hand. Keep still for three seconds.'],
  ['soft', 'Soft', 'Strum open chords as softly as you ever play, four times, with a breath between.'],
  ['normal', 'Normal', 'The same as you usually play. Single open strings here tell the tuning as well.'],
  ['hard', 'Hard', 'The same as hard as you ever play.'],
]
const REST_S = 3
const LEAST_S = 1

interface Props {
  open: boolean
  guitar: GuitarProfile
  position: PickupPosition
  onClose: () => void
  onKeep: (measure: GuitarMeasure) => void
}

/** Four steps of playing: rest, soft, normal, hard; the level is seen while one plays. */
export function MeasureDialog({ open, guitar, position, onClose, onKeep }: Props) {
  return (
    <PaperDialog open={open} onClose={onClose} title={`Measure ${position.name} by playing`} wide>
      {open && <Steps guitar={guitar} onKeep={onKeep} />}
    </PaperDialog>
  )
}

function Steps({ guitar, onKeep }: Pick<Props, 'guitar' | 'onKeep'>) {
  const dispatch = useAppDispatch()
  const { player } = session
  const { live } = useAppSelector((s) => s.player)
  const [taken, setTaken] = useState<Partial<Record<Step, { samples: Float32Array; peakDb: number }>>>({})
  const [running, setRunning] = useState<Step | null>(null)
  const [left, setLeft] = useState(0)
  const [problem, setProblem] = useState<string | null>(null)
  const [measure, setMeasure] = useState<GuitarMeasure | null>(null)
  const { raw } = useSyncExternalStore(player.meter.subscribe, player.meter.read)
  const stop = useRef<(() => void) | null>(null)
  useEffect(
    () => () => {
      stop.current?.()
      void player.chooseSource('riff')
    },
    [player],
  )

  const record = async (step: Step) => {
    setProblem(null)
    setMeasure(null)
    try {
      await player.openInput()
      // as it comes in: a trim belongs to a preset's calibration
      dispatch(liveChanged({ trim: 0 }))
      player.startCalibration()
      await player.startTake()
      setRunning(step)
      if (step === 'rest')
        for (let s = REST_S; s > 0; s--) {
          setLeft(s)
          await new Promise((done) => setTimeout(done, 1000))
        }
      else await new Promise<void>((done) => (stop.current = done))
      stop.current = null
      const peakDb = player.hardestDbfs()
      const [samples] = await player.stopTake()
      setRunning(null)
      if (samples.length < LEAST_S * SAMPLE_RATE) throw new Error('that lasted less than a second; play a little longer.')
      const next = { ...taken, [step]: { samples, peakDb } }
      setTaken(next)
      if (STEPS.every(([s]) => next[s])) await work(next as Record<Step, { samples: Float32Array }>)
    } catch (error) {
      setRunning(null)
      setProblem(reasonOf(error))
    }
  }
  const work = async (steps: Readonly<Record<Step, { samples: Float32Array }>>) => {
    const { rest, soft, normal, hard } = steps
    const samples = { rest: rest.samples, soft: soft.samples, normal: normal.samples, hard: hard.samples }
    setMeasure(await renderers.run({ task: 'measurePlayed', args: [samples, guitar], key: null, rank: 'now' }))
  }
  const next = STEPS.find(([s]) => !taken[s])?.[0] ?? null
  const now = 20 * Math.log10(raw + 1e-7)
  return (
    <div data-steps={STEPS.filter(([s]) => taken[s]).length}>
      <p className="mb-2 text-ink2">
        Straight from the guitar into an instrument input, nothing before it. Keep the interface’s input gain where you will have it: levels
        are told against its full scale. Use headphones, turned down.
      </p>
      <div className="mb-2 flex items-baseline gap-4">
        <span className="font-semibold">Channel</span>
        <Segments
          label="Channel"
          value={live.channel}
          options={[
            ['left', '1, left'],
            ['right', '2, right'],
            ['sum', 'Both'],
          ]}
          onChange={(channel) => dispatch(liveChanged({ channel }))}
        />
      </div>
      <div className="mb-2" aria-hidden="true">
        <span className="relative block h-[10px] border-y border-rule2">
          <span className="absolute inset-y-[2px] left-0 bg-ink" style={{ width: `${100 * levelShare(now)}%` }} />
          <span className="absolute inset-y-0 border-l-2 border-ember" style={{ left: `${100 * levelShare(-1)}%` }} />
        </span>
        <span className="num flex justify-between text-axis text-ink3">
          <span>−100 dBFS</span>
          <span>{now < -90 ? 'nothing comes in yet' : `now ${figure(now)} dBFS`}</span>
          <span>0</span>
        </span>
      </div>
      {STEPS.map(([step, name, words], i) => {
        const done = taken[step]
        return (
          <div
            key={step}
            className={`grid grid-cols-[74px_minmax(0,1fr)_auto] items-baseline gap-x-3 border-t border-rule py-1 ${running === step ? 'bg-deep' : ''}`}
          >
            <span className="font-semibold">
              <span className="num mr-1 font-normal text-ink2">{i + 1}</span>
              {name}
            </span>
            <span className="text-[12px] text-ink2">
              {words}
              {done && (
                <span className="num ml-2 text-ink">
                  {step === 'rest' ? 'at rest' : 'loudest'} {figure(done.peakDb)} dBFS peak, {figure(done.samples.length / SAMPLE_RATE)} s
                </span>
              )}
            </span>
            {running === step ? (
              step === 'rest' ? (
                <span className="num">{left} s …</span>
              ) : (
                <button type="button" className="btn" onClick={() => stop.current?.()}>
                  Done with {name.toLowerCase()}
                </button>
              )
            ) : (
              <button
                type="button"
                className={step === next ? 'btn btn-filled' : 'act'}
                disabled={running !== null}
                onClick={() => void record(step)}
              >
                {done ? 'Again' : 'Start'}
              </button>
            )}
          </div>
        )
      })}
      {problem !== null && (
        <p role="alert" className="mt-2 font-semibold">
          <WarningMark /> Not measured: {problem}
        </p>
      )}
      {measure && (
        <div className="mt-2 border-t border-ink pt-2">
          <MeasureFigures measure={measure} />
          <button type="button" className="btn mt-1" onClick={() => onKeep(measure)}>
            Take these figures
          </button>
        </div>
      )}
    </div>
  )
}
