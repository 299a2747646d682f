import { readFileSync } from 'node:fs'
import { parseMidi } from 'midi-file'
import type { Page } from '@playwright/test'
import { expect, heardPeak, test, withoutFeet } from './app'

const lit = (page: Page, index: number) => page.locator(`[data-switch="${index}"]`)

test('the board is played by mouse and keys: snapshots, stages, a thrown echo, tap, tuner, pages and banks', async ({ page, app }) => {
  await page.goto(`${app.url}/controls/demo-pit-main/board?snapshot=overture`)
  const snapshot = (name: string) => page.getByRole('group', { name: 'Snapshot', exact: true }).getByRole('button', { name })
  await expect(lit(page, 0)).toHaveAttribute('data-lit', 'true')

  // a key is a foot: at once on the first row, on release where the switch can be held
  await page.keyboard.press('d')
  await expect(snapshot('Storm lead')).toHaveAttribute('aria-pressed', 'true')
  await page.keyboard.press('w', { delay: 60 })
  await expect(snapshot('Finale')).toHaveAttribute('aria-pressed', 'true')
  // held, it is the tuner; A on its own would compare, here it is a switch
  await page.keyboard.down('w')
  await expect(page.getByRole('region', { name: 'Tuner' })).toBeVisible()
  await page.keyboard.up('w')
  // wherever the player goes, the muted output is told
  await page.getByRole('link', { name: 'Sources' }).click()
  await expect(lit(page, 0)).toHaveCount(0)
  await expect(page.getByRole('region', { name: 'Tuner' })).toContainText('The output is muted.')
  await page.getByRole('link', { name: 'Foot controller' }).click()
  await expect(lit(page, 0)).toBeVisible()
  await page.getByRole('button', { name: 'Tuner off' }).click()
  await expect(page.getByRole('region', { name: 'Tuner' })).toHaveCount(0)
  await page.keyboard.press('s')
  await expect(snapshot('Pit strum')).toHaveAttribute('aria-pressed', 'true')

  // the other page: stages by mouse, what the foot has switched is kept by one edit, and undone
  await page.keyboard.press('r')
  await expect(page.getByRole('radio', { name: 'Single switches' })).toHaveAttribute('aria-checked', 'true')
  await expect(page.locator('[data-function="2 press"] [data-effect=strum]')).toHaveText('Mid-hump drive on')
  await lit(page, 1).click()
  await expect(lit(page, 1)).toHaveAttribute('data-lit', 'true')
  await expect(page.getByText('One stage is switched over')).toBeVisible()
  await page.getByRole('button', { name: 'Keep it in the snapshot' }).click()
  await expect(page.locator('[data-function="2 press"] [data-effect=strum]')).toHaveText('Mid-hump drive off')
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(lit(page, 1)).toHaveAttribute('data-lit', 'false')

  // while it is down: there and back again
  await page.keyboard.down('a')
  await expect(lit(page, 0)).toHaveAttribute('data-lit', 'true')
  await page.keyboard.up('a')
  await expect(lit(page, 0)).toHaveAttribute('data-lit', 'false')

  // four taps half a second apart are 120 bpm
  const box = await lit(page, 6).boundingBox()
  if (!box) throw new Error('no tap switch')
  const at = await page.evaluate(
    ([x, y]) =>
      new Promise<number[]>((done) => {
        const times: number[] = []
        const target = document.elementFromPoint(x, y) as HTMLElement
        const hit = () => {
          target.dispatchEvent(new PointerEvent('pointerdown', { bubbles: true, pointerId: 1, button: 0 }))
          target.dispatchEvent(new PointerEvent('pointerup', { bubbles: true, pointerId: 1 }))
          times.push(performance.now())
          if (times.length < 4) setTimeout(hit, 500)
          else done(times)
        }
        Object.assign(HTMLElement.prototype, { setPointerCapture: () => undefined })
        hit()
      }),
    [box.x + 20, box.y + 20] as const,
  )
  const interval = (at[3] - at[0]) / 3
  const tempo = Number(await page.getByLabel('Tempo in bpm').inputValue())
  expect(Math.abs(tempo - 60_000 / interval)).toBeLessThan(2)
})

test('what the foot switches is heard, and the tuner mutes and hears the riff', async ({ page, app }) => {
  await page.goto(`${app.url}/controls/demo-pit-main/board?snapshot=overture`)
  const loudest = async (ms: number) => {
    let most = 0
    for (const end = Date.now() + ms; Date.now() < end;) {
      most = Math.max(most, await heardPeak(page))
      await page.waitForTimeout(60)
    }
    return most
  }
  await page.getByRole('button', { name: 'Play', exact: true }).click()
  await expect.poll(() => heardPeak(page)).toBeGreaterThan(0.01)
  // the swell pedal at its heel is silence, once the hall has rung out
  const swell = page.getByRole('slider', { name: 'Position of Swell' })
  await swell.focus()
  await swell.press('Home')
  await page.waitForTimeout(3_000)
  expect(await loudest(1_500)).toBeLessThan(0.01)
  await swell.press('End')
  await page.waitForTimeout(300)
  expect(await loudest(1_500)).toBeGreaterThan(0.05)
  await page.keyboard.down('w')
  await expect(page.getByRole('region', { name: 'Tuner' })).toBeVisible()
  await page.keyboard.up('w')
  await page.waitForTimeout(300)
  expect(await loudest(1_000)).toBeLessThan(0.001)
  // it names what it hears; chords are no single note all of the time, their decay often is
  await expect(page.locator('[data-tuner]:not([data-tuner=""])')).toBeVisible({ timeout: 30_000 })
  await page.getByRole('button', { name: 'Tuner off' }).click()
  await page.waitForTimeout(300)
  expect(await loudest(1_500)).toBeGreaterThan(0.05)
})

test('a board is laid out from nothing, arranged, checked against a smaller device, and kept', async ({ page, app }) => {
  const id = await withoutFeet(page, app)
  await page.goto(`${app.url}/controls/${id}/board?snapshot=overture`)
  await expect(lit(page, 0)).toContainText('free')
  // by hand: press, several stages, hold
  const panel = page.getByRole('complementary', { name: 'Switch' })
  const choose = async (button: string, option: string) => {
    await panel.getByRole('button', { name: new RegExp(`^${button}: `) }).click()
    await page.getByRole('option', { name: option, exact: true }).click()
  }
  await lit(page, 2).click()
  await choose('Press does', 'Stages on and off')
  await choose('Stage 1 of Press', 'Mid-hump drive')
  await choose('One more stage of Press', 'Delay')
  await choose('Hold does', 'Tap the tempo')
  await expect(panel).toContainText('Acts when the foot is lifted')
  await expect(lit(page, 2)).toContainText('Mid-hump drive + Delay')
  await expect(page.locator('[data-function="3 press"] [data-effect=overture]')).toHaveText('Mid-hump drive on, Delay on')
  await panel.getByLabel('Label of the switch').fill('Push')
  await page.keyboard.press('Enter')
  await expect(lit(page, 2)).toContainText('Push')
  // dragged onto the first place, and back by keys
  await lit(page, 2).hover()
  await page.mouse.down()
  const first = await lit(page, 0).boundingBox()
  if (!first) throw new Error('no first switch')
  await page.mouse.move(first.x + 90, first.y + 40, { steps: 8 })
  await page.mouse.up()
  await expect(lit(page, 0)).toContainText('Push')
  await expect(lit(page, 2)).toContainText('free')
  await lit(page, 0).focus()
  await page.keyboard.press('Alt+ArrowRight')
  await expect(lit(page, 1)).toContainText('Push')
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(lit(page, 0)).toContainText('Push')

  // by itself: every snapshot is reached then
  await expect(page.locator('[data-rule="out-of-reach"]').first()).toContainText('No switch loads')
  await page.getByRole('button', { name: 'Lay it out' }).click()
  await expect(page.locator('[data-rule="out-of-reach"]')).toHaveCount(0)
  await expect(lit(page, 5)).toContainText('Finale')
  // a device of four switches in one bank cannot hold it: told, and what has no room is moved where there is some
  await expect(page.locator('[data-sync=saved]')).toBeVisible()
  await page.getByRole('link', { name: 'Change it in the Kit' }).click()
  const count = page.getByLabel('Number of switches')
  await count.fill('13')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('alert')).toContainText('runs from 2 to 12')
  await count.fill('4')
  await page.keyboard.press('Enter')
  await expect(page.locator('[data-sync=saved]')).toBeVisible()
  await page.goBack()
  await page.getByRole('button', { name: 'Take it' }).click()
  await expect(page.locator('[data-rule="device-capacity"]').first()).toContainText('has 4 switches in 2 banks')
  const told = await page.locator('[data-rule="device-capacity"]').count()
  await page.locator('[data-rule="device-capacity"]').first().getByRole('button', { name: 'Move it to a free switch' }).click()
  await expect(page.locator('[data-rule="device-capacity"]')).toHaveCount(told - 1)
  await page.getByRole('button', { name: 'Lay it out' }).click()
  await expect(page.locator('[data-rule="device-capacity"]')).toHaveCount(0)
  await page.getByRole('radio', { name: 'play it' }).click()
  // six snapshots on four switches: the last two a bank up, which is held on the last switch
  await page.keyboard.down('f')
  await expect(lit(page, 0)).toContainText('Chase')
  await page.keyboard.up('f')
  await page.keyboard.press('a')
  await expect(lit(page, 0)).toHaveAttribute('data-lit', 'true')
  await expect(page.locator('[data-sync=saved]')).toBeVisible()
  await page.reload()
  await expect(lit(page, 3)).toContainText('Lullaby')
})

test('preset up and down go along the shelf', async ({ page, app }) => {
  await page.goto(`${app.url}/controls/demo-harbour-clean/board`)
  await page.getByRole('button', { name: 'Press does' }).click()
  await page.getByRole('option', { name: 'Preset', exact: true }).click()
  await page.getByRole('radio', { name: 'play it' }).click()
  await expect(lit(page, 0)).toContainText('Preset up')
  await page.getByRole('button', { name: 'Play', exact: true }).click()
  await expect.poll(() => heardPeak(page)).toBeGreaterThan(0.01)
  await page.keyboard.press('a')
  await expect(page.getByLabel('Name of the preset')).toHaveValue('Low Tide Signals, lead')
  await expect(page).toHaveURL(/\/controls\/demo-tide-lead\/board/)
  // what played goes on playing
  await expect(page.getByRole('button', { name: 'Stop', exact: true })).toBeVisible()
  await expect.poll(() => heardPeak(page)).toBeGreaterThan(0.01)
})

test('messages are listed, exported and understood', async ({ page, app }) => {
  await page.addInitScript(() => {
    const sent: number[][] = []
    const input = { name: 'Test board', onmidimessage: null as ((event: { data: Uint8Array; timeStamp: number }) => void) | null }
    const output = { name: 'Test device', send: (bytes: number[]) => sent.push([...bytes]) }
    const access = { inputs: new Map([['1', input]]), outputs: new Map([['2', output]]), onstatechange: null }
    Object.assign(navigator, { requestMIDIAccess: () => Promise.resolve(access) })
    Object.assign(window, {
      sentMidi: sent,
      sendMidi: (...bytes: number[]) => input.onmidimessage?.({ data: Uint8Array.from(bytes), timeStamp: performance.now() }),
    })
  })
  const send = (...bytes: number[]) =>
    page.evaluate((b) => (window as unknown as { sendMidi: (...b: number[]) => void }).sendMidi(...b), bytes)
  await page.goto(`${app.url}/controls/demo-pit-main/midi?snapshot=overture`)
  await page.getByRole('button', { name: 'Listen to MIDI' }).click()
  await expect(page.locator('[data-midi-inputs="1"]')).toContainText('Test board')
  await expect(page.locator('[data-midi-row="snapshot Storm lead"]')).toContainText('B0 50 02')
  await send(0xb0, 80, 2)
  const pressed = page.getByRole('group', { name: 'Snapshot', exact: true }).locator('[aria-pressed=true]')
  await expect(pressed).toHaveText('3 Storm lead')

  // told by programs on another channel instead
  await page.getByLabel('MIDI channel').fill('5')
  await page.keyboard.press('Enter')
  await page.getByRole('button', { name: 'Snapshots are told by' }).click()
  await page.getByRole('option', { name: 'programs' }).click()
  await expect(page.locator('[data-rule="midi-clash"]')).toHaveCount(0)
  await expect(page.locator('[data-midi-row="snapshot Chase"]')).toContainText('C4 04')
  await send(0xc4, 4)
  await expect(pressed).toHaveText('5 Chase')
  await page.getByLabel('Program of the preset').fill('4')
  await page.keyboard.press('Enter')
  await expect(page.locator('[data-rule="midi-clash"]')).toContainText('stands for “Salt Road, pit main” and for “Chase”')
  await page.getByLabel('Program of the preset').fill('none')
  await page.keyboard.press('Enter')
  await expect(page.locator('[data-rule="midi-clash"]')).toHaveCount(0)
  await page.getByRole('button', { name: 'Send Lullaby' }).click()
  expect(await page.evaluate(() => (window as unknown as { sentMidi: number[][] }).sentMidi)).toEqual([[0xc4, 3]])

  const [midi] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Standard MIDI File' }).click()])
  const file = parseMidi(readFileSync(await midi.path()))
  expect(midi.suggestedFilename()).toBe('salt-road-pit-main.mid')
  expect(file.tracks[1].filter((e) => e.type === 'programChange').map((e) => e.programNumber)).toEqual([0, 1, 2, 3, 4, 5])
  const [csv] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'CSV' }).click()])
  expect(readFileSync(await csv.path(), 'utf8').split('\r\n')[1]).toBe(
    'snapshot,Overture clean,loads the snapshot,program change,5,0,,,C4 00',
  )

  // a switch of the board is learnt from a foot, and pressed by it
  await page.getByRole('link', { name: 'Foot controller' }).click()
  await page.getByRole('radio', { name: 'arrange it' }).click()
  await lit(page, 1).click()
  await page.getByRole('button', { name: 'Learn' }).click()
  await send(0x90, 40, 100)
  await expect(page.locator('[data-midi="note 1 40"]')).toBeVisible()
  await send(0x90, 40, 0)
  await send(0x90, 40, 90)
  await expect(pressed).toHaveText('2 Pit strum')
})
