import type { GigPart, GigSheet, SheetList } from '@fulgor/core/sheets'
import type { jsPDF } from 'jspdf'
import boldUrl from 'dejavu-fonts-ttf/ttf/DejaVuSansCondensed-Bold.ttf?url'
import plainUrl from 'dejavu-fonts-ttf/ttf/DejaVuSansCondensed.ttf?url'

export const PAPERS = ['a4', 'letter'] as const
export type Paper = (typeof PAPERS)[number]

/** Both faces as bytes; they hold what names of songs are written in. */
export type Faces = Readonly<Record<'plain' | 'bold', Uint8Array>>

const FAMILY = 'Fulgor'
const MARGIN = 34
const GUTTER = 18
/** pt of type: from the largest that is tried to the smallest that is read at a stand. */
const LARGEST = 16
const SMALLEST = 8

export async function loadFaces(): Promise<Faces> {
  const [plain, bold] = await Promise.all(
    [plainUrl, boldUrl].map(async (url) => {
      const answer = await fetch(url)
      if (!answer.ok) throw new Error('The type for the paper could not be loaded.')
      return new Uint8Array(await answer.arrayBuffer())
    }),
  )
  return { plain, bold }
}

function binary(bytes: Uint8Array): string {
  let text = ''
  for (let i = 0; i < bytes.length; i += 8_192) text += String.fromCharCode(...bytes.subarray(i, i + 8_192))
  return text
}

async function blank(paper: Paper, faces: Faces, title: string): Promise<jsPDF> {
  const { jsPDF: Pdf } = await import('jspdf')
  const doc = new Pdf({ unit: 'pt', format: paper, compress: true })
  doc.addFileToVFS('plain.ttf', btoa(binary(faces.plain)))
  doc.addFont('plain.ttf', FAMILY, 'normal')
  doc.addFileToVFS('bold.ttf', btoa(binary(faces.bold)))
  doc.addFont('bold.ttf', FAMILY, 'bold')
  doc.setProperties({ title })
  return doc
}

interface Written {
  readonly bold?: boolean
  /** pt that it may be wide. */
  readonly most?: number
  readonly right?: boolean
  /** It may not be cut: a smaller type is taken instead. */
  readonly whole?: boolean
}

/** Something that is drawn at a height and says how far down it went. */
class Pen {
  y = MARGIN
  pages = 1
  /** Words that had to be cut and may not be. */
  cut = 0
  private column = 0
  /** Where columns begin on this page. */
  private top = MARGIN
  constructor(
    readonly doc: jsPDF,
    /** Only measured: nothing is drawn. */
    readonly dry: boolean,
    readonly columns: number,
  ) {}

  get whole(): number {
    return this.doc.internal.pageSize.getWidth() - 2 * MARGIN
  }
  /** Of a column. */
  get width(): number {
    return (this.whole - (this.columns - 1) * GUTTER) / this.columns
  }
  get left(): number {
    return MARGIN + this.column * (this.width + GUTTER)
  }
  get bottom(): number {
    return this.doc.internal.pageSize.getHeight() - MARGIN
  }

  /** The columns begin below what was written over their whole width. */
  begin(): void {
    this.top = this.y
  }

  /** Room for so many pt, in the next column or on a new page if need be. */
  room(pt: number): void {
    if (this.y + pt <= this.bottom) return
    this.column++
    this.y = this.top
    if (this.column < this.columns) return
    this.column = 0
    this.pages++
    this.top = MARGIN
    this.y = MARGIN
    if (!this.dry) this.doc.addPage()
  }

  /** pt that bold words are wide. */
  widthOf(words: string, size: number): number {
    this.doc.setFont(FAMILY, 'bold')
    this.doc.setFontSize(size)
    return this.doc.getTextWidth(words)
  }

  /** @returns width of what was written, pt */
  text(words: string, x: number, size: number, { bold = false, most = Infinity, right = false, whole = false }: Written = {}): number {
    this.doc.setFont(FAMILY, bold ? 'bold' : 'normal')
    this.doc.setFontSize(size)
    let shown = words
    while (shown.length > 1 && this.doc.getTextWidth(shown) > most) shown = `${shown.slice(0, -2).trimEnd()}…`
    if (whole && shown !== words) this.cut++
    if (!this.dry && shown !== '') this.doc.text(shown, this.left + x, this.y, right ? { align: 'right' } : {})
    return this.doc.getTextWidth(shown)
  }

  lines(words: string, size: number, most: number): string[] {
    this.doc.setFont(FAMILY, 'normal')
    this.doc.setFontSize(size)
    return this.doc.splitTextToSize(words, most) as string[]
  }

  rule(weight: number): void {
    if (this.dry) return
    this.doc.setLineWidth(weight)
    this.doc.line(this.left, this.y, this.left + this.width, this.y)
  }
}

function drawGig(pen: Pen, sheet: GigSheet, size: number): void {
  pen.y += size * 1.5
  pen.text(sheet.title, 0, size * 1.7, { bold: true, most: pen.whole })
  if (sheet.about !== '') {
    pen.y += size * 1.3
    pen.text(sheet.about, 0, size * 0.9, { most: pen.whole })
  }
  pen.y += size * 0.6
  pen.begin()
  const { width } = pen
  const line = size * 1.26
  const small = size * 0.72
  const parts = sheet.songs.flatMap((s) => s.parts)
  const widest = (words: readonly string[], of: number) => Math.max(0, ...words.map((w) => pen.widthOf(w, of)))
  const soundWords = (part: GigPart) => `${part.number} ${part.sound}`.trim() || 'nothing'
  const press =
    widest(
      parts.map((p) => p.press),
      size * 1.05,
    ) +
    size * 0.7
  const sound = Math.min(widest(parts.map(soundWords), size) + size * 0.7, width - press)
  for (const song of sheet.songs) {
    const heights = song.parts.map((p) => line + (p.also.length > 0 ? size * 0.95 : 0))
    // a song stays together where it fits a column
    pen.room(Math.min(line + size + heights.reduce((a, b) => a + b, 0), (pen.bottom - MARGIN) / 2))
    pen.rule(1.2)
    pen.y += line
    const cue = song.cue === '' ? 0 : pen.text(song.cue, 0, size * 0.9) + size * 0.6
    const name = pen.text(song.name, cue, size * 1.1, { bold: true, most: width - cue, whole: true })
    const room = width - cue - name - size
    if (room > size * 3) pen.text([song.about, song.guitar].filter(Boolean).join(' · '), width, small, { most: room, right: true })
    song.parts.forEach((part, i) => {
      pen.room(heights[i])
      pen.y += line
      pen.text(part.press, 0, size * 1.05, { bold: true, most: press - 4, whole: true })
      pen.text(soundWords(part), press, size, { bold: part.press !== '', most: sound - 4, whole: true })
      const from = press + sound
      const where = `${part.part}${part.sung && !/sung/i.test(part.part) ? ', sung' : ''}`
      const told = from + pen.text(where, from, small, { most: width - from, whole: true }) + small
      if (told + small * 3 < width) pen.text(part.bars, told, small, { most: width - told })
      if (part.also.length === 0) return
      pen.y += size * 0.95
      pen.text(part.also.join('; '), press, small, { most: width - press })
    })
    pen.y += size * 0.5
  }
}

/** The gig sheet, as large as fits one page, in one column or two; more pages only where the smallest type does not fit. */
export async function gigPdf(
  sheet: GigSheet,
  paper: Paper,
  faces: Faces,
): Promise<{ bytes: Uint8Array<ArrayBuffer>; pages: number; size: number }> {
  const doc = await blank(paper, faces, sheet.title)
  const fits = (size: number, columns: number): boolean => {
    const dry = new Pen(doc, true, columns)
    drawGig(dry, sheet, size)
    return dry.pages === 1 && dry.cut === 0
  }
  let [size, columns] = [LARGEST, 1]
  while (size > SMALLEST && !fits(size, (columns = 1)) && !fits(size, (columns = 2))) size -= 0.5
  const pen = new Pen(doc, false, columns)
  drawGig(pen, sheet, size)
  return { bytes: new Uint8Array(doc.output('arraybuffer')), pages: pen.pages, size }
}

/** A list with headings; with boxes to tick where `ticks`. */
export async function listPdf(
  sheet: SheetList,
  paper: Paper,
  faces: Faces,
  ticks: boolean,
): Promise<{ bytes: Uint8Array<ArrayBuffer>; pages: number }> {
  const doc = await blank(paper, faces, sheet.title)
  const pen = new Pen(doc, false, 1)
  const size = 12
  pen.y += 18
  pen.text(sheet.title, 0, 18, { bold: true, most: pen.width })
  pen.y += 17
  pen.text(sheet.about, 0, 11, { most: pen.width })
  pen.y += 8
  for (const { name, lines } of sheet.groups) {
    if (lines.length === 0) continue
    pen.room(60)
    pen.y += 10
    pen.rule(1.2)
    pen.y += 18
    pen.text(name, 0, 14, { bold: true, most: pen.width })
    for (const words of lines) {
      const indent = ticks ? 20 : 0
      for (const [i, text] of pen.lines(words, size, pen.width - indent).entries()) {
        pen.room(18)
        pen.y += i === 0 ? 19 : 15
        if (ticks && i === 0) {
          doc.setLineWidth(0.9)
          doc.rect(MARGIN, pen.y - 9.5, 10, 10)
        }
        pen.text(text, indent, size)
      }
    }
  }
  return { bytes: new Uint8Array(doc.output('arraybuffer')), pages: pen.pages }
}
