import { FLACDecoder } from '@wasm-audio-decoders/flac'
import { expose } from 'comlink'
import { unzipSync, type UnzipFileInfo } from 'fflate'
import type { UploadedResponse } from '@fulgor/core/api'
import { readSound, soundKind, wavSamples, writeWav, type WavBits } from '@fulgor/core/formats'
import { threadOf } from '../background/serve'
import { reasonOf, type Task } from '../background/tasks'

/** A file as it was dropped: its path names the folders that it came in. */
export interface DroppedFile {
  readonly path: string
  readonly file: File
}

export interface ImportProgress {
  readonly done: number
  /** Grows while archives are opened. */
  readonly total: number
}

export interface ImportReport {
  readonly taken: readonly string[]
  readonly refused: readonly { readonly path: string; readonly reason: string }[]
  readonly duplicates: readonly { readonly path: string; readonly of: string }[]
  /** Files that are no sounds, such as a pack's text. */
  readonly others: number
  readonly cancelled: boolean
  readonly ms: number
}

interface Piece {
  readonly path: string
  readonly bytes: Uint8Array
}

const SOUND = /\.(wave?|aiff?|aifc|flac)$/i
const ZIP = /\.zip$/i
const MOST_BYTES = 16e6
const BATCH_FILES = 64
const BATCH_BYTES = 24e6

const flac = new FLACDecoder()

/** FLAC as a WAV with the same samples. */
async function fromFlac(bytes: Uint8Array): Promise<Uint8Array> {
  await flac.ready
  try {
    const { channelData, sampleRate, bitDepth, samplesDecoded, errors } = await flac.decodeFile(bytes)
    if (errors.length > 0) throw new Error(`its FLAC stream is damaged (${errors[0].message}).`)
    if (samplesDecoded === 0) throw new Error('it holds no sound.')
    if (channelData.length < 1 || channelData.length > 2) throw new Error(`it has ${channelData.length} channels; one or two are read.`)
    return writeWav(channelData, sampleRate, bitDepth <= 16 ? 16 : bitDepth <= 24 ? 24 : 32)
  } finally {
    await flac.reset()
  }
}

/** Everything that was dropped, archives opened, a few files at a time. */
async function* pieces(
  files: readonly DroppedFile[],
  task: Task,
  report: { refuse(path: string, reason: string): void; other(): void; more(count: number): void },
): AsyncGenerator<Piece> {
  for (const { path, file } of files) {
    if (ZIP.test(path)) {
      try {
        yield* unzipped(path, new Uint8Array(await file.arrayBuffer()), task, report)
      } catch (error) {
        report.refuse(path, `this archive cannot be opened (${reasonOf(error)}).`)
      }
      continue
    }
    if (!SOUND.test(path) && files.length > 1) {
      report.other()
      continue
    }
    if (file.size > MOST_BYTES) {
      report.refuse(path, 'is larger than 16 MB.')
      continue
    }
    yield { path, bytes: new Uint8Array(await file.arrayBuffer()) }
  }
}

/** Members of an archive, a batch at a time, so that an archive never lies unpacked in memory as a whole. */
function* unzipped(
  path: string,
  bytes: Uint8Array,
  task: Task,
  report: { refuse(path: string, reason: string): void; other(): void; more(count: number): void },
): Generator<Piece> {
  const names: string[] = []
  unzipSync(bytes, {
    filter: ({ name, originalSize }: UnzipFileInfo) => {
      if (name.endsWith('/') || name.startsWith('__MACOSX/')) return false
      if (!SOUND.test(name)) report.other()
      else if (originalSize > MOST_BYTES) report.refuse(`${path}/${name}`, 'is larger than 16 MB.')
      else names.push(name)
      return false
    },
  })
  report.more(names.length)
  for (let at = 0; at < names.length && !task.stopping; at += BATCH_FILES) {
    const wanted = new Set(names.slice(at, at + BATCH_FILES))
    const found = unzipSync(bytes, { filter: ({ name }) => wanted.has(name) })
    for (const [name, member] of Object.entries(found)) yield { path: `${path.replace(ZIP, '')}/${name}`, bytes: member }
  }
}

async function upload(batch: readonly Piece[]): Promise<UploadedResponse[]> {
  const body = new FormData()
  body.append('paths', JSON.stringify(batch.map((p) => p.path.slice(-400))))
  for (const { bytes } of batch) body.append('files', new Blob([bytes as Uint8Array<ArrayBuffer>]), 'response')
  const answer = await fetch('/api/responses', { method: 'POST', body })
  const json = (await answer.json()) as UploadedResponse[] | { error?: { message?: string } }
  if (!Array.isArray(json)) throw new Error(json.error?.message ?? `The server answered ${answer.status}.`)
  return json
}

const tasks = {
  /** WAV, AIFF or FLAC as WAV. @throws Error naming the file and the reason */
  async asWav(_task: Task, file: File): Promise<Uint8Array> {
    try {
      const bytes = new Uint8Array(await file.arrayBuffer())
      const kind = soundKind(bytes)
      if (kind === 'flac') return await fromFlac(bytes)
      const { channels, sampleRate, bits } = readSound(bytes)
      return writeWav(channels, sampleRate, bits <= 16 ? 16 : bits <= 24 ? 24 : 32)
    } catch (error) {
      throw new Error(`“${file.name}” was not taken: ${reasonOf(error)}`, { cause: error })
    }
  },

  /** Decoded samples as they stand in a WAV; null where they do not fit its whole numbers. */
  samples(_task: Task, channels: readonly Float32Array[], bits: WavBits): Uint8Array<ArrayBuffer> | null {
    if (bits !== 32) for (const x of channels) for (const v of x) if (v > 1 || v < -1) return null
    return wavSamples(channels, bits)
  },

  /**
   * Takes files, folders' files and archives; each that cannot be read is named with its reason. Tells its {@link ImportProgress}. Asked
   * to stop, it ends after the batches that are on their way; what was taken stays.
   */
  async take(task: Task, files: readonly DroppedFile[]): Promise<ImportReport> {
    const start = performance.now()
    const taken: string[] = []
    const refused: { path: string; reason: string }[] = []
    const duplicates: { path: string; of: string }[] = []
    let others = 0
    let total = files.filter((f) => !ZIP.test(f.path)).length
    let done = 0
    const told = () => task.tell({ done, total } satisfies ImportProgress)
    const report = {
      refuse: (path: string, reason: string) => {
        refused.push({ path, reason })
        done++
      },
      other: () => {
        others++
      },
      more: (count: number) => {
        total += count
      },
    }
    const running = new Set<Promise<void>>()
    const send = async (batch: readonly Piece[]): Promise<void> => {
      for (const result of await upload(batch)) {
        if (result.outcome === 'taken') taken.push(result.hash)
        else if (result.outcome === 'duplicate') duplicates.push({ path: result.path, of: result.of })
        else refused.push({ path: result.path, reason: result.reason })
      }
      done += batch.length
      told()
    }
    let batch: Piece[] = []
    let bytes = 0
    const flush = async () => {
      if (batch.length === 0) return
      const job = send(batch)
      const kept = job.finally(() => running.delete(kept))
      running.add(kept)
      kept.catch(() => undefined)
      batch = []
      bytes = 0
      if (running.size >= 2) await Promise.race(running)
    }
    for await (const piece of pieces(files, task, report)) {
      if (task.stopping) break
      try {
        batch.push(soundKind(piece.bytes) === 'flac' ? { path: piece.path, bytes: await fromFlac(piece.bytes) } : piece)
        bytes += piece.bytes.length
      } catch (error) {
        report.refuse(piece.path, reasonOf(error))
      }
      if (batch.length >= BATCH_FILES || bytes >= BATCH_BYTES) await flush()
    }
    if (!task.stopping) await flush()
    await Promise.all(running)
    told()
    return { taken, refused, duplicates, others, cancelled: task.stopping, ms: performance.now() - start }
  },
}

export type ImportTasks = typeof tasks
expose(threadOf(tasks))
