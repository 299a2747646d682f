import { modelOf, parseValue, type ParamSpec } from '@fulgor/core/catalogue'
import { resolveStage, tempoOf, type Edit, type Preset, type StageNode } from '@fulgor/core/preset'
import { noteOfBeats, parseBeats } from '@fulgor/core/stage'

/** What typed text comes to: an edit, or why not. */
export type Typed =
  { readonly ok: true; readonly edit: Edit; readonly also: string | null } | { readonly ok: false; readonly reason: string }

export const isTime = (spec: ParamSpec): boolean =>
  spec.kind === 'number' && (spec.unit === 'ms' || spec.unit === 's' || spec.unit === 'hz')

/**
 * The edit that a typed value of a stage comes to. A time may be a note value, which it follows from then on where it can; a number frees it.
 * @param lit the snapshot that is heard, for the tempo and the value that stands there
 * @param goes in which snapshot (null: the base) an edit of a parameter is made
 */
export function typedValue(
  preset: Preset,
  stage: StageNode,
  { lit, goes }: { lit: string | null; goes: (param: string) => string | null },
  param: string,
  text: string,
): Typed {
  const model = modelOf(stage.model)
  const spec = model.params[param]
  const { params } = resolveStage(preset, stage, lit)
  const tempo = tempoOf(preset, lit)
  const change = (key: string, value: number | string) =>
    ({ type: 'setParam', stage: stage.id, snapshot: goes(key), param: key, value }) as const
  const beats = isTime(spec) ? parseBeats(text) : null
  const note = model.sync?.find((s) => s.time === param)?.note
  const exact = beats === null ? null : noteOfBeats(beats)
  if (note !== undefined && exact) return { ok: true, edit: change(note, exact.id), also: null }
  const parsed = parseValue(spec, text, { tempo: isTime(spec) ? tempo : undefined, now: Number(params[param]) })
  if (!parsed.ok) return parsed
  const free = note !== undefined && params[note] !== 'free' ? [change(note, 'free')] : []
  const own = change(param, parsed.value)
  return { ok: true, edit: free.length > 0 ? { type: 'all', edits: [...free, own] } : own, also: parsed.also }
}

/** A parameter that is named before its value, as in “gain 7”: its key and what comes behind; null where none is. */
export function namedParam(model: string, text: string): { key: string; rest: string } | null {
  const clean = text.trim().toLowerCase()
  const names = Object.entries(modelOf(model).params).flatMap(([key, spec]) =>
    [spec.label, spec.short].map((name) => ({ key, name: name.toLowerCase() })),
  )
  const found = names.filter(({ name }) => clean.startsWith(`${name} `)).sort((a, b) => b.name.length - a.name.length)[0]
  return (found as typeof found | undefined) ? { key: found.key, rest: clean.slice(found.name.length + 1) } : null
}
