import type { Command } from 'commander'
import { outputMeasures, type OutputMeasures } from '@fulgor/core/measure'
import { readWavFile } from '../input'
import { figure, print, table } from '../output'

/** Lines for a person. */
export function measureLines(m: OutputMeasures): string[] {
  return table([
    ['Integrated loudness', figure(m.integratedLufs, 'LUFS')],
    ['Loudness range', figure(m.rangeLu, 'LU')],
    ['Loudest 400 ms', figure(m.momentaryMaxLufs, 'LUFS')],
    ['Loudest 3 s', figure(m.shortTermMaxLufs, 'LUFS')],
    ['True peak', figure(m.truePeakDbtp, 'dBTP')],
    ['RMS', figure(m.rmsDbfs, 'dBFS')],
    ['Sample peak', figure(m.peakDbfs, 'dBFS')],
    ['Crest', figure(m.crestDb, 'dB')],
    ['Brightness', figure(m.centroidHz, 'Hz', 0)],
  ])
}

/** The keys of the command line's JSON. */
export const measureJson = ({ rangeLu, ...m }: OutputMeasures) => ({ ...m, loudnessRangeLu: rangeLu })

export function addMeasure(program: Command): void {
  program
    .command('measure <file>')
    .description('loudness, true peak, level, brightness and third-octave spectrum of a WAV')
    .option('--json', 'one JSON value')
    .action((file: string, { json }: { json?: boolean }) => {
      const wav = readWavFile(file)
      const m = outputMeasures(wav.channels, wav.sampleRate)
      const about = { sampleRate: wav.sampleRate, channels: wav.channels.length, durationS: wav.channels[0].length / wav.sampleRate }
      print(json ?? false, { ...about, ...measureJson(m) }, () => [
        `${file}: ${about.channels} channel(s), ${about.sampleRate} Hz, ${about.durationS.toFixed(2)} s`,
        ...measureLines(m),
      ])
    })
}
