// The desk's copy of the document: its own edits at once, in order; news merged; gaps and refusals healed.
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { api, type Edit, type ShowState } from '../src/api/api'
import { DocumentCopy } from '../src/live/document'

vi.stubGlobal('window', globalThis)
const state = (version: number, amount: number): ShowState =>
  ({
    id: 1,
    version,
    undo: '',
    redo: '',
    palette: '',
    colours: [],
    names: {},
    document: { name: 'Night', sound_amount: amount },
  }) as unknown as ShowState
const heading = (from: number, version: number) => ({
  id: 1,
  from,
  version,
  undo: '',
  redo: '',
  palette: '',
  colours: [],
})
const set = (value: number): Edit => ({ edit: 'set', path: '/sound_amount', value })
const amount = (copy: DocumentCopy): number | undefined => copy.document.value?.sound_amount

describe('DocumentCopy', () => {
  const complaints: unknown[] = []
  let copy: DocumentCopy
  let release: (() => void)[] = []
  const sent: Edit[] = []

  beforeEach(() => {
    vi.useFakeTimers()
    complaints.length = sent.length = 0
    release = []
    vi.spyOn(api, 'edit').mockImplementation((edit) => {
      sent.push({ ...edit } as Edit)
      return new Promise((done) => release.push(() => done({} as never)))
    })
    vi.spyOn(api, 'show').mockResolvedValue(state(9, 0.9))
    copy = new DocumentCopy((error) => complaints.push(error))
    copy.hear(state(1, 1))
  })

  it('shows its own edit at once and sends it', async () => {
    copy.edit(set(0.5), 'Amount')
    expect(amount(copy)).toBe(0.5)
    await vi.advanceTimersByTimeAsync(0)
    expect(sent).toEqual([set(0.5)])
  })

  it('sends of one drag only the newest while another is on its way', async () => {
    copy.edit(set(0.1), 'Amount', 'g')
    await vi.advanceTimersByTimeAsync(0)
    for (const value of [0.2, 0.3, 0.4]) copy.edit(set(value), 'Amount', 'g')
    expect(amount(copy)).toBe(0.4)
    release.shift()!()
    await vi.advanceTimersByTimeAsync(0)
    expect(sent).toEqual([set(0.1), set(0.4)])
  })

  it('merges news of others and ignores old ones', async () => {
    await vi.advanceTimersByTimeAsync(1000)
    const news = { ...heading(1, 2), undo: 'A', changes: [{ path: '/name', value: 'Day' }] }
    copy.merge(news)
    expect([copy.document.value?.name, copy.undoName.value]).toEqual(['Day', 'A'])
    copy.merge({ ...news, changes: [{ path: '/name', value: 'Old' }] })
    expect(copy.document.value?.name).toBe('Day')
  })

  it('takes the whole anew after a gap in the news', async () => {
    copy.merge({ ...heading(5, 6), changes: [] })
    await vi.advanceTimersByTimeAsync(0)
    expect(amount(copy)).toBe(0.9)
  })

  it('takes back what was refused, and says why', async () => {
    vi.mocked(api.edit).mockRejectedValueOnce(new Error('too loud'))
    copy.edit(set(7), 'Amount')
    await vi.advanceTimersByTimeAsync(0)
    expect(complaints).toHaveLength(1)
    expect(amount(copy)).toBe(0.9)
  })
})
