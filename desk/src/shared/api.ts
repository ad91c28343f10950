// The web process's resources, with types generated from its own description.
import type { components } from './api-types'

type Schemas = components['schemas']
export type Show = Schemas['Show']
export type ShowState = Schemas['ShowState']
export type Part = Show['lamps'][number]['fixture']
export type Route = Show['routes'][number]
export type Band = Show['bands'][number]
export type Layout = Schemas['Layout']
export type Plan = Schemas['Plan']
export type Slot = Schemas['Slot']
export type SignalInfo = Schemas['SignalInfo']
export type Parameter = Schemas['Parameter']
export type KindInfo = Schemas['KindInfo']
export type Track = Schemas['Track']
export type ShowSummary = Schemas['ShowSummary']
export type Edit = Schemas['EditRequest']['edit']
type Problem = Schemas['Problem']

/** An error in words a performer understands. */
export class Refusal extends Error {
  constructor(readonly problem: Problem) { super(problem.detail) }
}

async function call<T>(method: string, path: string, body?: unknown): Promise<T> {
  let response: Response
  try {
    response = await fetch(`/api/v1${path}`, { method, headers: body === undefined ? {} : { 'Content-Type': 'application/json' }, body: body === undefined ? undefined : JSON.stringify(body) })
  } catch {
    throw new Refusal({ type: 'about:blank', title: 'The desk is cut off', status: 0, detail: 'The show goes on. This page tries to reach it again.', where: '' })
  }
  if (!response.ok) {
    const fallback: Problem = { type: 'about:blank', title: 'That did not work', status: response.status, detail: response.statusText, where: '' }
    throw new Refusal(await response.json().catch(() => fallback))
  }
  return (response.status === 204 ? undefined : await response.json()) as T
}

export const api = {
  kinds: () => call<KindInfo[]>('GET', '/kinds'),
  tracks: () => call<Track[]>('GET', '/tracks'),
  shows: () => call<ShowSummary[]>('GET', '/shows'),
  createShow: (name: string) => call<ShowState>('POST', '/shows', { name }),
  openShow: (id: number) => call<ShowState>('POST', `/shows/${id}/open`),
  edit: (edit: Edit, name: string, gesture: string) => call<Schemas['Edited']>('POST', '/show/edits', { edit, name, gesture }),
  step: (which: 'undo' | 'redo') => call<Schemas['Edited']>('POST', `/show/${which}`),
  seek: (seconds: number) => call<void>('POST', '/transport/seek', { seconds }),
}
