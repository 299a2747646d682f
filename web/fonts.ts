import subsetFont from 'subset-font'
import type { Plugin } from 'vite'

const range = (from: number, to: number) => String.fromCodePoint(...Array.from({ length: to - from + 1 }, (_, i) => from + i))

/** What the packages' Latin files answer for, by their unicode-range; other letters have files of their own. */
const CHARACTERS = [
  [0x20, 0xff],
  [0x131],
  [0x152, 0x153],
  [0x2bb, 0x2bc],
  [0x2c6],
  [0x2da],
  [0x2dc],
  [0x2000, 0x206f],
  [0x20ac],
  [0x2122],
  [0x2191],
  [0x2193],
  [0x2212],
  [0x2215],
]
  .map(([from, to = from]) => range(from, to))
  .join('')

type Axes = NonNullable<NonNullable<Parameters<typeof subsetFont>[2]>['variationAxes']>

/** Axes as the theme uses them (tokens.css): headings in one width, labels from 84 %, weights from 400. */
const FONTS: readonly { readonly file: RegExp; readonly axes: Axes }[] = [
  { file: /bricolage-grotesque-latin-wdth-normal/, axes: { wdth: 82, wght: { min: 400, max: 800 } } },
  { file: /instrument-sans-latin-wdth-normal/, axes: { wdth: { min: 84, max: 100 } } },
  { file: /spline-sans-mono-latin-wght-normal/, axes: { wght: { min: 400, max: 700 } } },
]

/** Ships of each font what the interface can show: the first page waits for less. */
export const subsetFonts = (): Plugin => ({
  name: 'subset-fonts',
  apply: 'build',
  async generateBundle(_, bundle) {
    const left = new Set(FONTS)
    for (const asset of Object.values(bundle)) {
      const font = FONTS.find(({ file }) => file.test(asset.fileName) && asset.fileName.endsWith('.woff2'))
      if (asset.type !== 'asset' || !font) continue
      asset.source = await subsetFont(Buffer.from(asset.source), CHARACTERS, { targetFormat: 'woff2', variationAxes: font.axes })
      left.delete(font)
    }
    for (const { file } of left)
      this.error(`No font that is called ${file.source} came into the build: web/fonts.ts names what it shortens.`)
  },
})
