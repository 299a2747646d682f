import type { Command } from 'commander'
import { DocumentError } from '@fulgor/core/document'
import {
  allowedHours,
  comparePlaces,
  CONTOUR_HZ,
  differenceWords,
  PLACES_TO_BEGIN,
  proposeCorrection,
  readPlace,
  type Place,
} from '@fulgor/core/place'
import { InputError, readJsonFile } from '../input'
import { print, table } from '../output'

/** A listening place from a document, or a shipped one by its name. */
function placeFrom(file: string): Place {
  const shipped = PLACES_TO_BEGIN.find((p) => p.name.toLowerCase() === file.toLowerCase())
  if (shipped) return shipped
  try {
    return readPlace(readJsonFile(file))
  } catch (error) {
    if (error instanceof DocumentError) throw new InputError(`${file}: ${error.message}`)
    throw error
  }
}

const signed = (db: number): string => `${db > 0 ? '+' : ''}${db.toFixed(1)}`

export function addPlace(program: Command): void {
  const place = program.command('place').description('listening places')
  place
    .command('compare')
    .argument('<made>', `place document where the sound was made, or one of ${PLACES_TO_BEGIN.map((p) => p.name).join(', ')}`)
    .argument('<heard>', 'place where it is heard')
    .description('how a balance that was made at one place is heard at another, and what would bring it back')
    .option('--json', 'one JSON value')
    .action((a: string, b: string, o: { json?: boolean }) => {
      const [made, heard] = [placeFrom(a), placeFrom(b)]
      const { ear, response, sum, louder, lows, top } = comparePlaces(made, heard)
      const correction = proposeCorrection(made, heard)
      const result = {
        made: made.name,
        heard: heard.name,
        louderDb: louder,
        lowsDb: lows,
        topDb: top,
        hz: CONTOUR_HZ,
        earDb: ear,
        responseDb: response,
        sumDb: sum,
        correction,
        hoursADay: allowedHours(heard.level),
      }
      print(o.json ?? false, result, () => [
        differenceWords(made, heard),
        ...table([
          ['Hz', 'ear, dB', 'place, dB', 'together, dB'],
          ...CONTOUR_HZ.map((hz, k) => [String(hz), signed(ear[k]), signed(response[k]), signed(sum[k])]),
        ]),
        correction.length === 0
          ? 'nothing needs to be set against it'
          : `set against it: ${correction.map((c) => `${c.kind} ${c.hz} Hz ${signed(c.db)} dB`).join(', ')}`,
        ...(result.hoursADay === null
          ? []
          : [
              `NOTE  at ${heard.level} dB(A) the usual limit of exposure is ${result.hoursADay.toFixed(2)} h a day (8 h at 85, half for every 3 dB); follow local rules`,
            ]),
      ])
    })
}
