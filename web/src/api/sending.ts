import { Cancelled } from '../background/tasks'

/** Not taken: by the server, or since it does not answer; `status` and `data` are those of the API's errors. */
export class Refused extends Error {
  constructor(
    readonly status: number | 'FETCH_ERROR',
    readonly data: unknown,
  ) {
    super('The request failed.')
    this.name = 'Refused'
  }
}

/** Sends a file and tells how much of it has gone; `fetch` does not tell that. */
export interface Sending {
  readonly signal: AbortSignal
  /** 0–1. */
  readonly onShare: (share: number) => void
}

/**
 * Posts a file.
 * @returns what the server answers
 * @throws Refused as the API’s errors are told; Cancelled where the signal says so
 */
export function sendFile(url: string, file: Blob, { signal, onShare }: Sending): Promise<unknown> {
  return new Promise((done, fail) => {
    const request = new XMLHttpRequest()
    request.open('POST', url)
    request.setRequestHeader('Content-Type', 'audio/wav')
    request.responseType = 'json'
    request.upload.onprogress = ({ loaded, total }) => onShare(total > 0 ? loaded / total : 0)
    request.onload = () => {
      const { status, response } = request as { status: number; response: unknown }
      if (status >= 200 && status < 300) done(response)
      else fail(new Refused(status, response))
    }
    request.onerror = () => fail(new Refused('FETCH_ERROR', null))
    request.onabort = () => fail(new Cancelled())
    signal.addEventListener('abort', () => request.abort())
    if (signal.aborted) {
      fail(new Cancelled())
      return
    }
    onShare(0)
    request.send(file)
  })
}
