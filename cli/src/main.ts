import { Command, CommanderError } from 'commander'
import { InputError } from './input'
import { addCheck } from './verbs/check'
import { addFeel } from './verbs/feel'
import { addGuitar } from './verbs/guitar'
import { addIr } from './verbs/ir'
import { addLevel } from './verbs/level'
import { addMatch } from './verbs/match'
import { addMeasure } from './verbs/measure'
import { addPlace } from './verbs/place'
import { addCatalogue } from './verbs/catalogue'
import { addPlan } from './verbs/plan'
import { addReference } from './verbs/reference'
import { addRender } from './verbs/render'
import { addRiff } from './verbs/riff'
import { addResponse } from './verbs/response'
import { addTonestack } from './verbs/tonestack'

const program = new Command('fulgor')
  .description('The core of Fulgor on the command line. Frequencies in Hz, levels in dB, times in ms, durations in s.')
  .exitOverride()
program.configureOutput({ outputError: (text, write) => write(text.replace(/^error: /, 'fulgor: ')) })
for (const add of [
  addMeasure,
  addResponse,
  addTonestack,
  addRender,
  addLevel,
  addIr,
  addRiff,
  addFeel,
  addGuitar,
  addPlace,
  addCheck,
  addReference,
  addMatch,
  addPlan,
  addCatalogue,
])
  add(program)
for (const command of [...program.commands, ...program.commands.flatMap((c) => c.commands)])
  command.exitOverride().configureOutput(program.configureOutput())

try {
  await program.parseAsync()
} catch (error) {
  if (error instanceof CommanderError) process.exitCode = error.exitCode === 0 ? 0 : 2
  else if (error instanceof InputError) {
    console.error(`fulgor: ${error.message}`)
    process.exitCode = 2
  } else {
    console.error('fulgor: internal failure:', error)
    process.exitCode = 1
  }
}
