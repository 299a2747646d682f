import { writeWav } from '@fulgor/core/formats'
import { GUITARS, strokesOn, voiceOf } from '@fulgor/core/guitar'
import { expect, heardPeak, measured, openPit, test } from './app'

const RATE = 48_000

/** A dry recording: two seconds of hum and hiss, then soft, normal and hard strums of a shipped guitar, three of each. */
function recording(): Buffer {
  const x = new Float32Array(12 * RATE)
  let state = 1
  for (let n = 0; n < x.length; n++) {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0
    x[n] = 2e-5 * (state / 2 ** 31 - 1) + 4e-4 * Math.sin((2 * Math.PI * 60 * n) / RATE)
  }
  const voice = voiceOf(GUITARS[2], GUITARS[2].positions[0])
  ;(['soft', 'normal', 'hard'] as const).forEach((strength, k) => {
    const strum = strokesOn(voice, strength, RATE).subarray(0, RATE / 2)
    for (let i = 0; i < 3; i++) strum.forEach((v, n) => (x[Math.round((2.5 + 3 * k + i) * RATE) + n] += v))
  })
  return Buffer.from(writeWav([x], RATE, 24))
}

test('a guitar is measured from a dropped file, typed, undone and kept', async ({ page, app }) => {
  await page.goto(app.url)
  await page.getByRole('link', { name: 'Kit', exact: true }).click()
  await page.getByRole('link', { name: /^Plank/ }).click()
  await expect(page.getByRole('textbox', { name: 'Name of the guitar' })).toHaveValue('Plank')
  await page.locator('[data-position="3"]').click()
  const hard = page.getByRole('textbox', { name: 'Hard strum, peak' })
  await expect(hard).toHaveValue('\u221213.0')

  await page
    .getByLabel('A dry recording of this position')
    .setInputFiles({ name: 'middle.wav', mimeType: 'audio/wav', buffer: recording() })
  const found = page.locator('[data-found=measured]')
  await expect(found).toContainText('3 soft, 3 normal, 3 hard strums', { timeout: 20_000 })
  await expect(found).toContainText('mostly hum of 60 Hz mains')
  await page.getByRole('button', { name: 'Take these figures' }).click()
  await expect(page.locator('[data-figures=file]')).toBeVisible()
  // a hard strum of that guitar stands near −14 dBFS
  expect(Math.abs(Number((await hard.inputValue()).replace('\u2212', '-')) + 14)).toBeLessThan(1.5)
  await expect(page.getByRole('textbox', { name: 'Hum at rest' })).toHaveValue('\u221271.0 dBFS')

  // typed over it, in any of its units, and back
  await hard.fill('-12')
  await hard.press('Enter')
  await expect(page.locator('[data-figures=typed]')).toBeVisible()
  await page.getByRole('heading', { level: 1 }).click()
  await page.keyboard.press('Control+z')
  await expect(page.locator('[data-figures=file]')).toBeVisible()

  await page.getByRole('textbox', { name: 'Length of the cable' }).fill('900 pF')
  await page.keyboard.press('Enter')
  await expect(page.locator('[data-knobs]')).toContainText('9.0 m of cable')
  await page.getByRole('textbox', { name: 'String 6', exact: true }).fill('drop d')
  await page.keyboard.press('Enter')
  await expect(page.locator('[data-tuning="Drop D"]')).toBeVisible()
  await page.getByRole('textbox', { name: 'String 6', exact: true }).fill('H9')
  await page.keyboard.press('Enter')
  await expect(page.getByText('“H9” is no note with its octave')).toBeVisible()
  await page.keyboard.press('Escape')

  await expect(page.locator('[data-sync=saved]')).toBeVisible()
  await page.reload()
  await page.locator('[data-position="3"]').click()
  await expect(page.locator('[data-figures=file]')).toBeVisible()
  await expect(page.locator('[data-tuning="Drop D"]')).toBeVisible()
})

test('what says nothing of a guitar is refused in one sentence, and nothing is lost', async ({ page, app }) => {
  await page.goto(`${app.url}/kit/guitars/demo-double-cut`)
  const drop = async (name: string, buffer: Buffer) => {
    await page.getByLabel('A dry recording of this position').setInputFiles({ name, mimeType: 'audio/wav', buffer })
  }
  await drop('silence.wav', Buffer.from(writeWav([new Float32Array(5 * RATE)], RATE, 16)))
  await expect(page.getByRole('alert')).toContainText('“silence.wav” is silent')
  const half = Float32Array.from({ length: 5 * 22_050 }, (_, n) => 0.2 * Math.sin(n / 10))
  await drop('half.wav', Buffer.from(writeWav([half], 22_050, 16)))
  await expect(page.getByRole('alert')).toContainText('“half.wav” is at 22,050 Hz')
  const tone = (hz: number) => Float32Array.from({ length: 4 * RATE }, (_, n) => 0.2 * Math.sin((2 * Math.PI * hz * n) / RATE))
  await drop('two.wav', Buffer.from(writeWav([tone(110), tone(173)], RATE, 16)))
  await expect(page.getByRole('alert')).toContainText('two different signals')
  await page.getByRole('button', { name: 'Left', exact: true }).click()
  await expect(page.getByRole('alert')).toContainText('no quiet stretch')
  await drop('text.wav', Buffer.from('hello'))
  await expect(page.getByRole('alert')).toContainText('text.wav')
  await expect(page.locator('[data-figures=start]')).toBeVisible()
})

test('a guitar is measured by playing in four steps, and told what is missing', async ({ page, app }) => {
  await page.goto(`${app.url}/kit/guitars/demo-plank`)
  await page.getByRole('button', { name: 'Measure by playing' }).click()
  await page.getByRole('button', { name: 'Start', exact: true }).first().click()
  await expect(page.locator('[data-steps="1"]')).toBeVisible({ timeout: 10_000 })
  await expect(page.getByText(/at rest \u2212\d+\.\d dBFS peak/)).toBeVisible()
  for (const [i, step] of ['soft', 'normal', 'hard'].entries()) {
    await page.getByRole('dialog').locator('button.btn-filled').click()
    await expect(page.getByText(/now \u2212\d+\.\d dBFS/)).toBeVisible()
    await page.waitForTimeout(1_300)
    await page.getByRole('button', { name: `Done with ${step}` }).click()
    await expect(page.locator(`[data-steps="${i + 2}"]`)).toBeVisible()
  }
  // the browser's own guitar never rests
  await expect(page.getByRole('alert')).toContainText('No soft strum was heard')
  await page.keyboard.press('Escape')
  await expect(page.getByRole('dialog')).toHaveCount(0)
})

test('a preset is carried to another guitar: compared, heard, kept beside the base, and taken away again', async ({ page, app }) => {
  await openPit(page, app)
  await measured(page)
  await page.getByTitle('Play it on another guitar').click()
  await page.getByRole('button', { name: /^The other guitar/ }).click()
  await page.getByRole('option', { name: 'Plank' }).click()
  const table = page.locator('[data-whole]')
  await expect(table).not.toHaveAttribute('data-whole', 'working', { timeout: 90_000 })
  const value = async (row: string, column: number) =>
    Number(await page.locator(`[data-row=${row}] td`).nth(column).getAttribute('data-value'))
  expect(Math.abs((await value('edgeDb', 1)) - (await value('edgeDb', 3)))).toBeLessThan(0.5)
  expect(Math.abs((await value('edgeDb', 1)) - (await value('edgeDb', 2)))).toBeGreaterThan(2)
  expect(Math.abs((await value('brightnessHz', 3)) / (await value('brightnessHz', 1)) - 1)).toBeLessThan(0.03)

  await page.getByRole('button', { name: 'C corrected' }).click()
  await page.getByRole('button', { name: 'Play', exact: true }).click()
  await expect.poll(() => heardPeak(page), { timeout: 20_000 }).toBeGreaterThan(0.01)
  await page.getByRole('button', { name: 'A as made' }).click()
  await expect(page.getByRole('button', { name: 'A as made' })).toHaveAttribute('aria-pressed', 'true')
  await page.getByRole('button', { name: 'Stop', exact: true }).click()

  await page.getByRole('checkbox', { name: 'Gate threshold' }).uncheck()
  await expect(table).not.toHaveAttribute('data-transfer', 'working', { timeout: 60_000 })
  await page.getByRole('button', { name: /^Keep 3 of 4/ }).click()
  await expect(page.getByText('Guitar, made on Double-cut')).toBeVisible()
  await expect(page.locator('[data-used=demo-plank]')).toContainText('offsets for 1')
  await expect(page.locator('[data-sync=saved]')).toBeVisible()
  await page.reload()
  await expect(page.locator('[data-used=demo-plank]')).toContainText('offsets for 1')

  // the base keeps its own values: on its own guitar it is as it was
  await page.getByRole('button', { name: /^Guitar of the preset/ }).click()
  await page.getByRole('option', { name: 'Double-cut' }).click()
  await expect(page.getByText('Guitar, made on Double-cut')).toHaveCount(0)
  await page.getByRole('link', { name: 'Kit', exact: true }).click()
  await page.getByRole('link', { name: /^Plank/ }).click()
  await expect(page.getByRole('link', { name: 'Salt Road, pit main' })).toBeVisible()
  await page.getByRole('button', { name: 'Delete', exact: true }).click()
  await expect(page.getByText('1 preset keeps a copy of it and will still play.')).toBeVisible()
  await page.getByRole('button', { name: 'Delete it' }).click()
  await expect(page.getByRole('link', { name: /^Plank/ })).toHaveCount(0)
  await page.goto(`${app.url}/play-on/demo-pit-main`)
  await expect(page.locator('[data-used=demo-plank]')).toContainText('no longer in the Kit')
})

test('the guitar’s volume is typed for a snapshot, darkens it and drives the amp less', async ({ page, app }) => {
  await openPit(page, app)
  await measured(page)
  await page.keyboard.press('1')
  const into = async () => Number(await page.locator('[data-trace]').nth(1).getAttribute('data-trace'))
  await expect.poll(into).toBeGreaterThan(-60)
  const before = await into()
  await page.getByTitle('Play it on another guitar').click()
  await page.getByRole('textbox', { name: 'Volume of the snapshot' }).fill('5')
  await page.keyboard.press('Enter')
  await page.getByRole('link', { name: 'Sheet' }).click()
  await measured(page)
  await expect.poll(into, { timeout: 20_000 }).toBeLessThan(before - 10)
})

test('a place is set against another one, its correction kept, and listened through but not exported', async ({ page, app }) => {
  await page.goto(`${app.url}/kit/places/demo-headphones-at-night`)
  await page.getByRole('button', { name: 'I sit here: hear other places from here' }).click()
  await page.getByRole('link', { name: /^House PA/ }).click()
  await expect(page.locator('[data-difference]')).toContainText('dB more lows')
  // 94 dB(A): an hour
  await expect(page.locator('[data-exposure="1"]')).toContainText('1.0 h a day')
  await page.getByRole('textbox', { name: 'Level of the place' }).fill('100')
  await page.keyboard.press('Enter')
  await expect(page.locator('[data-exposure="0.25"]')).toContainText('15 min a day')
  // what was measured there takes the place of what was typed
  const curve = Array.from({ length: 40 }, (_, k) => `${(30 * 1.17 ** k).toFixed(1)} ${k < 12 ? 86 : 80}`).join('\n')
  const measuring = page.getByLabel('Measured response of the place')
  await measuring.setInputFiles({ name: 'hall.txt', mimeType: 'text/plain', buffer: Buffer.from('* hall\n' + curve) })
  await expect(page.locator('[data-measured-place]')).toContainText(/“hall.txt”: \d+ bands, on average within 0\.\d dB/)
  await measuring.setInputFiles({ name: 'empty.txt', mimeType: 'text/plain', buffer: Buffer.from('nothing') })
  await expect(page.getByRole('alert')).toContainText('“empty.txt” holds 0 points')
  await page.getByRole('button', { name: 'Keep it for this place' }).click()
  await expect(page.getByRole('textbox', { name: 'Correction 1, gain' })).toBeVisible()
  await expect(page.locator('[data-sync=saved]')).toBeVisible()

  await openPit(page, app)
  await measured(page)
  await page.getByRole('button', { name: /^Listening place/ }).click()
  await page.getByRole('option', { name: /House PA/ }).click()
  await expect(page.getByRole('button', { name: 'Listening place: House PA, mono' })).toBeVisible()
  await page.getByRole('button', { name: 'Play', exact: true }).click()
  await expect.poll(() => heardPeak(page), { timeout: 20_000 }).toBeGreaterThan(0.01)
  await page.getByRole('button', { name: /^Listening place/ }).click()
  await page.getByRole('option', { name: 'As it comes' }).click()
  await expect(page.getByRole('button', { name: 'Listening place: Place' })).toBeVisible()
})

/** Notes at 96 to the minute, then a stretch of nothing. */
function verse(): Buffer {
  const x = Float32Array.from({ length: 12 * RATE }, (_, n) => {
    const t = (n / RATE) % 0.625
    return 0.3 * Math.exp(-5 * t) * Math.sin(2 * Math.PI * 110 * t) * (n < 11 * RATE ? 1 : 0)
  })
  return Buffer.from(writeWav([x], RATE, 24))
}

test('a riff of one’s own is trimmed by dragging, told of, played on a guitar, deleted and brought back', async ({ page, app }) => {
  await page.goto(`${app.url}/kit/riffs`)
  await page.getByLabel('Riff file').setInputFiles({ name: 'verse.wav', mimeType: 'audio/wav', buffer: verse() })
  const name = page.getByRole('textbox', { name: 'Name of the riff' })
  await expect(name).toHaveValue('verse')
  await name.fill('Verse, dry')
  await name.press('Enter')
  await page.getByRole('textbox', { name: 'Tempo of the recording' }).fill('96')
  await page.keyboard.press('Enter')

  // drawn roughly over two seconds to seven: it ends on a beat
  const wave = page.locator('[data-wave]')
  const box = await wave.boundingBox()
  if (!box) throw new Error('no wave')
  await page.mouse.move(box.x + (2 / 12) * box.width, box.y + 30)
  await page.mouse.down()
  await page.mouse.move(box.x + (6.9 / 12) * box.width, box.y + 40, { steps: 6 })
  await page.mouse.up()
  await expect(page.locator('[data-loop="5.000"]')).toContainText('2.00 bars')
  await page.getByRole('slider', { name: 'Start of the loop' }).focus()
  await page.keyboard.press('Shift+ArrowRight')
  await expect(wave).toHaveAttribute('data-wave', /^2\.00\d-/)
  await page.getByRole('heading', { level: 1 }).click()
  await page.keyboard.press('Control+z')
  await page.getByRole('textbox', { name: 'Bars of the loop' }).fill('2')
  await page.keyboard.press('Enter')
  await page.getByRole('button', { name: 'Hear the loop' }).click()
  await expect(page.getByRole('button', { name: 'Stop', exact: true })).toBeVisible()
  await page.getByRole('button', { name: 'Guitar that it was recorded on' }).click()
  await page.getByRole('option', { name: 'Plank' }).click()
  await expect(page.locator('[data-sync=saved]')).toBeVisible()

  // in a preset: the loop and the guitar come along
  await openPit(page, app)
  await page.getByRole('button', { name: /^Dry riff/ }).click()
  await page.getByRole('option', { name: 'Verse, dry' }).click()
  await expect(page.getByRole('button', { name: 'Dry riff: Verse, dry' })).toBeVisible()
  await page.getByRole('button', { name: 'Play', exact: true }).click()
  await expect.poll(() => heardPeak(page), { timeout: 20_000 }).toBeGreaterThan(0.01)
  await expect(page.locator('[data-sync=saved]')).toBeVisible()

  // trimmed anew in the Kit: the preset says so and takes it by one press
  await page.goto(`${app.url}/kit/riffs`)
  await expect(page.getByRole('heading', { name: 'Verse, dry is used in' })).toBeVisible()
  await expect(page.getByRole('link', { name: 'Salt Road, pit main' })).toBeVisible()
  await page.getByRole('button', { name: 'Loop all of it' }).click()
  await expect(page.locator('[data-sync=saved]')).toBeVisible()
  await openPit(page, app)
  await page.getByRole('button', { name: 'Take the loop of the Kit' }).click()
  await expect(page.getByRole('button', { name: 'Take the loop of the Kit' })).toHaveCount(0)
  await expect(page.locator('[data-sync=saved]')).toBeVisible()

  await page.goto(`${app.url}/kit/riffs`)
  await page.getByRole('button', { name: 'Delete', exact: true }).click()
  await expect(page.getByRole('alert')).toContainText('1 preset plays it')
  await page.getByRole('button', { name: 'Delete it' }).click()
  await expect(page.getByRole('heading', { name: 'Your own' })).toHaveCount(0)
  await page.getByRole('status').getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByRole('link', { name: /^Verse, dry/ })).toBeVisible()

  await page.getByLabel('Riff file').setInputFiles({ name: 'notes.txt', mimeType: 'text/plain', buffer: Buffer.from('no sound') })
  await expect(page.getByText(/“notes.txt” was not taken: this is no WAV, AIFF or FLAC file/)).toBeVisible()
})

test('a band plays along at a place, at its own tempo, which can be taken', async ({ page, app }) => {
  await page.goto(`${app.url}/kit/backings`)
  await expect(page.getByRole('textbox', { name: 'Name of the backing' })).toHaveValue('Overture, the band without guitar')
  await expect(page.getByText('Loud rehearsal')).toBeVisible()
  await page.goto(`${app.url}/kit/places/demo-loud-rehearsal`)
  await page.getByRole('textbox', { name: 'Loudness of the backing' }).fill('-16')
  await page.keyboard.press('Enter')
  await expect(page.locator('[data-sync=saved]')).toBeVisible()
  await page.goto(`${app.url}/sheet/demo-tide-lead`)
  await page.getByRole('button', { name: /^Listening place/ }).click()
  await page.getByRole('option', { name: /Loud rehearsal/ }).click()
  await page.getByRole('button', { name: '96 bpm' }).click()
  await expect(page.getByRole('button', { name: '96 bpm' })).toHaveCount(0)
  await page.getByRole('button', { name: 'Play', exact: true }).click()
  await expect.poll(() => heardPeak(page), { timeout: 20_000 }).toBeGreaterThan(0.01)
})

test('a device of the Kit is shared by presets: what is changed there is told and taken', async ({ page, app }) => {
  await page.goto(`${app.url}/controls/demo-harbour-clean/board`)
  await page.getByRole('button', { name: /^Device:/ }).click()
  await page.getByRole('option', { name: /pit rack/ }).click()
  await expect(page.locator('[data-device=demo-pit-rack]')).toBeVisible()
  await expect(page.locator('[data-sync=saved]')).toBeVisible()
  await page.getByRole('link', { name: 'Change it in the Kit' }).click()
  await page.getByRole('textbox', { name: 'Number of switches' }).fill('6')
  await page.keyboard.press('Enter')
  await page.getByRole('checkbox', { name: 'two beside each other at once' }).check()
  await page.getByRole('textbox', { name: 'Processing of one stage, delays' }).fill('70')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('textbox', { name: 'Processing of one stage, delays' })).toHaveValue(/^70/)
  await expect(page.locator('[data-sync=saved]')).toBeVisible()
  await expect(page.getByRole('link', { name: 'Harbour clean' })).toBeVisible()
  await page.goto(`${app.url}/controls/demo-harbour-clean/board`)
  await page.getByRole('button', { name: 'Take it' }).click()
  await expect(page.getByRole('group', { name: 'Device' })).toContainText('6switches')

  // two switches at once lead to the other page; one of them alone does not
  await page.getByText('arrange it', { exact: true }).click()
  await page.locator('[data-switch="0"]').click()
  await page.getByRole('button', { name: 'Press with the next does' }).click()
  await page.getByRole('option', { name: 'Other page' }).click()
  await expect(page.locator('[data-switch="0"]')).toContainText('with 2: Page')
  await page.getByText('play it', { exact: true }).click()
  const board = page.getByRole('group', { name: /^Board, / })
  await page.keyboard.press('a', { delay: 120 })
  await expect(board).toHaveAccessibleName(/page of snapshots/)
  // both in one task: a test that is slow between two keys would make two presses of them
  await page.evaluate(() => {
    for (const type of ['keydown', 'keyup'])
      for (const key of ['a', 's']) document.body.dispatchEvent(new KeyboardEvent(type, { key, bubbles: true, cancelable: true }))
  })
  await expect(board).toHaveAccessibleName(/page of singles/)

  // a preset from elsewhere brings its own
  await page.goto(`${app.url}/controls/demo-tide-wall/board`)
  await page.getByRole('button', { name: 'Lay it into the Kit' }).click()
  await expect(page.getByRole('textbox', { name: 'Name of the device' })).toHaveValue('My device')
})
