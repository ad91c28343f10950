// How the desk asks the web process: one way for all, with errors in words.
import { ref } from 'vue'
import type { components } from './api-types'

type Problem = components['schemas']['Problem']

/** An error in words a performer understands. */
export class Refusal extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail)
  }
}

/** How many changes are on their way to the server. */
export const underWay = ref(0)

export async function call<T>(method: string, path: string, body?: unknown): Promise<T> {
  if (method === 'GET') return answerTo<T>(method, path, body)
  underWay.value++
  try {
    return await answerTo<T>(method, path, body)
  } finally {
    underWay.value--
  }
}

async function answerTo<T>(method: string, path: string, body?: unknown): Promise<T> {
  let response: Response
  try {
    const file = body instanceof Blob
    const headers: Record<string, string> =
      body === undefined ? {} : { 'Content-Type': file ? 'application/octet-stream' : 'application/json' }
    response = await fetch(`/api/v1${path}`, {
      method,
      headers,
      body: body === undefined || file ? (body as Blob) : JSON.stringify(body),
    })
  } catch {
    throw new Refusal({
      type: 'about:blank',
      title: 'The desk is cut off',
      status: 0,
      detail: 'The show goes on. This page tries to reach it again.',
      where: '',
    })
  }
  if (!response.ok) {
    const fallback: Problem = {
      type: 'about:blank',
      title: 'That did not work',
      status: response.status,
      detail: response.statusText,
      where: '',
    }
    throw new Refusal(await response.json().catch(() => fallback))
  }
  return (response.status === 204 ? undefined : await response.json()) as T
}

/** A file's name without its ending. */
export function nameOf(file: File, otherwise: string): string {
  return file.name.replace(/\.[^.]+$/, '').slice(0, 80) || otherwise
}

/** Send a file; progress from 0 to 1 while it goes, then it is being read. Abort the signal to break off. */
export function upload<T>(
  path: string,
  file: File,
  onProgress: (share: number) => void,
  signal: AbortSignal,
): Promise<T> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest()
    const refuse = (title: string, detail: string): void =>
      reject(new Refusal({ type: 'about:blank', title, status: request.status, detail, where: '' }))
    request.open('POST', `/api/v1${path}`)
    request.upload.onprogress = (event) => onProgress(event.loaded / event.total)
    request.onload = () => {
      if (request.status === 201) {
        resolve(JSON.parse(request.responseText))
        return
      }
      try {
        reject(new Refusal(JSON.parse(request.responseText)))
      } catch {
        refuse('That did not work', request.statusText)
      }
    }
    request.onerror = () => refuse('The upload was cut off', 'Nothing was kept. Try it again.')
    request.onabort = () => reject(new DOMException('broken off', 'AbortError'))
    signal.addEventListener('abort', () => request.abort())
    request.send(file)
  })
}

/** Fetch what was heard in a track, and let the browser keep it as a file. */
export async function download(track: string, ending: string): Promise<void> {
  const response = await fetch(`/api/v1/tracks/${encodeURIComponent(track)}/analysis${ending}`)
  if (!response.ok) throw new Refusal(await response.json())
  const link = document.createElement('a')
  link.href = URL.createObjectURL(await response.blob())
  link.download = `${track}${ending}`
  link.click()
  setTimeout(() => URL.revokeObjectURL(link.href), 10_000)
}
