import { spawn, type ChildProcess } from 'node:child_process'
import { resolve } from 'node:path'
import type { blankPreset } from '@fulgor/core/preset'

const root = resolve(import.meta.dirname, '../../..')

/** The real server as a process of its own, on a port that the system gives. */
export class TestServer {
  private constructor(
    readonly process: ChildProcess,
    readonly url: string,
    readonly data: string,
  ) {}

  /** Servers that do not answer yet: a test of killing kills them. */
  static readonly starting = new Set<ChildProcess>()

  static start(data: string, env: Record<string, string> = {}): Promise<TestServer> {
    return new Promise((done, fail) => {
      const child = spawn('node', ['--import', 'tsx', 'server/src/main.ts'], {
        cwd: root,
        env: { ...process.env, PORT: '0', FULGOR_DATA: data, FULGOR_WEB: 'off', TSX_TSCONFIG_PATH: 'server/tsconfig.json', ...env },
      })
      TestServer.starting.add(child)
      let said = ''
      const listen = (text: Buffer) => {
        said += text.toString()
        const url = /http:\/\/\S+:\d+/.exec(said)?.[0]
        if (!url) return
        TestServer.starting.delete(child)
        done(new TestServer(child, url, data))
      }
      child.stdout.on('data', listen)
      child.stderr.on('data', listen)
      child.on('exit', (code) => {
        TestServer.starting.delete(child)
        fail(new Error(`exit ${code}: ${said}`))
      })
    })
  }

  async call(method: string, path: string, body?: unknown, headers: Record<string, string> = {}) {
    const answer = await fetch(this.url + path, {
      method,
      headers: { 'Content-Type': 'application/json', ...headers },
      body: body === undefined ? undefined : body instanceof Uint8Array ? (body as Uint8Array<ArrayBuffer>) : JSON.stringify(body),
    })
    const text = await answer.text()
    return {
      status: answer.status,
      headers: answer.headers,
      body: (text.startsWith('{') || text.startsWith('[') ? JSON.parse(text) : text) as Answer,
    }
  }

  stop(signal: NodeJS.Signals = 'SIGTERM'): Promise<number | null> {
    return new Promise((done) => {
      this.process.once('exit', (code) => done(code))
      this.process.kill(signal)
    })
  }
}

export interface Answer {
  id: string
  revision: number
  name: string
  document: ReturnType<typeof blankPreset>
  items: { id: string; name: string; tags: string[] }[]
  next: string | null
  total: number
  hash: string
  number: number
  kind: string
  error: { message: string; fields: { field: string; reason: string }[]; current?: { revision: number } }
  length: number
  [index: number]: Answer
}
