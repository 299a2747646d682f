import { createSelector } from '@reduxjs/toolkit'
import { byWeight, checkPreset, checkSound, isAside, overCeiling, sparing, type Finding } from '@fulgor/core/checks'
import type { Preset } from '@fulgor/core/preset'
import { newId } from './ids'
import { truePeaks, type MeasuresState } from './measures'
import type { ReadingsState } from './readings'

interface State {
  readonly editor: { readonly history: { readonly present: Preset } | null }
  readonly measures: MeasuresState
  readonly readings: ReadingsState
}

const present = (state: State): Preset | null => state.editor.history?.present ?? null

const ofValues = createSelector([(state: State) => state.readings.rested ?? present(state)], (preset) =>
  preset ? checkPreset(preset, newId) : [],
)
const ofPeaks = createSelector([present, truePeaks], (preset, peaks) => (preset ? overCeiling(preset, peaks) : []))
// of the preset that was read: while a newer one is being read, what was found before stands
const ofSound = createSelector([(s: State) => s.readings.of, (s: State) => s.readings.snapshots], (preset, snapshots) =>
  preset ? checkSound({ preset, readings: snapshots }, newId) : [],
)

/** True while what is shown of the sound is of an earlier state. */
export const readingStale = (state: State): boolean => state.readings.of !== present(state)

/** All that is found in the open preset, what will go wrong first; mends are tried once nothing is on its way, so that typing never waits. */
const allFindings = createSelector([present, ofPeaks, ofSound, ofValues, readingStale], (preset, peaks, sound, values, stale) => {
  const all = byWeight([...peaks, ...sound, ...values])
  return preset && !stale ? sparing(preset, all, newId) : all
})

/** What is found and not set aside. */
export const openFindings = createSelector([present, allFindings], (preset, all): readonly Finding[] =>
  preset ? all.filter((f) => !isAside(preset, f)) : [],
)

/** By stage, the first finding that is about it, with its number. */
export const foundAt = createSelector(
  [openFindings],
  (findings): Readonly<Record<string, { number: number; finding: Finding } | undefined>> => {
    const found: Record<string, { number: number; finding: Finding }> = {}
    findings.forEach((finding, i) => {
      for (const id of finding.where) found[id] ??= { number: i + 1, finding }
    })
    return found
  },
)

/** What the player has set aside and would be told otherwise. */
export const asideFindings = createSelector([present, allFindings], (preset, all): readonly Finding[] =>
  preset ? all.filter((f) => isAside(preset, f)) : [],
)
