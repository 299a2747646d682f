import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, expect, it } from 'vitest'
import { demoDevices, demoPresets, demoShows } from '@fulgor/core/demo'
import { presetsOf } from '@fulgor/core/show'
import { fulgor } from './testing'

const folder = mkdtempSync(join(tmpdir(), 'fulgor-cli-plan-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))
const [{ document: show }] = demoShows
const presets = Object.fromEntries(presetsOf(show).map((id) => [id, demoPresets.find((p) => p.id === id)?.preset]))
const write = (name: string, value: unknown): string => {
  const file = join(folder, name)
  writeFileSync(file, JSON.stringify(value))
  return file
}
const set = { show, presets, capacity: demoDevices[0].document.capacity }
const whole = write('salt.json', set)

it('counts the presses of a night and proposes a layout, which is written as a set', () => {
  const out = join(folder, 'after.json')
  const { status, json } = fulgor('plan', whole, '--json', '--out', out)
  const told = json() as unknown as {
    presses: number
    whileSinging: number
    changes: { song: string; part: string; presses: number }[]
    layout: { after: { whileSinging: number; presses: number } }
  }
  expect(status).toBe(4)
  expect(told.changes.reduce((n, c) => n + c.presses, 0)).toBe(told.presses)
  // the first sound of the night is there when the preset is loaded; the next one is one switch away
  expect(told.changes.slice(0, 2).map((c) => [c.song, c.part, c.presses])).toEqual([
    ['Overture', 'Curtain', 0],
    ['Overture', 'Road theme', 1],
  ])
  expect(told.whileSinging).toBeGreaterThan(0)
  expect(told.layout.after.whileSinging).toBe(0)
  const again = fulgor('plan', out, '--json', '--no-layout')
  expect((again.json() as unknown as { presses: number }).presses).toBe(told.layout.after.presses)
  expect(JSON.parse(readFileSync(out, 'utf8'))).toHaveProperty('presets.demo-pit-main')
}, 120_000)

it('another night, in words', () => {
  const { stdout } = fulgor('plan', whole, '--night', 'school', '--no-layout')
  expect(stdout).toMatch(/^ {2}0 {2}Overture: Curtain/)
  expect(stdout).toMatch(/presses in “School matinée”/)
})

it('goes on without presets that are gone, and refuses what is no set', () => {
  const { stdout, status } = fulgor('plan', write('bare.json', show), '--no-layout')
  expect([status, stdout.includes('Its preset is not on the shelf any more.')]).toEqual([4, true])
  const bad = (name: string, value: unknown, ...rest: string[]) => fulgor('plan', write(name, value), '--no-layout', ...rest)
  expect(bad('none.json', { ...set, show: { ...show, orders: [] } }).stderr).toContain('orders')
  expect(bad('size.json', { ...set, capacity: { ...set.capacity, switches: 1 } }).stderr).toContain('capacity.switches')
  expect(bad('night.json', set, '--night', 'gone').stderr).toContain('there are evening, school')
  expect(bad('text.json', 'x').status).toBe(2)
})
