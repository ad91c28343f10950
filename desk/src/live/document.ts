// The open show's document on this desk: a copy, and the one way to change it.
import { ref, shallowRef, watch, type Ref, type ShallowRef } from 'vue'
import { api, type Edit, type Show, type ShowState } from '../api/api'
import { editNews, showNews, type EditNews } from './live'
import { valueAt, withValue } from './tree'

/** After an edit of this desk, news of the same place are older than what stands here. */
const OWN_MS = 150
const SETTLE_MS = 400

interface Waiting {
  edit: Edit
  name: string
  gesture: string
}

export class DocumentCopy {
  readonly document: ShallowRef<Show | null> = shallowRef(null)
  readonly names: ShallowRef<Record<string, string>> = shallowRef({})
  /** Id of the palette in use, and its colours. */
  readonly palette: ShallowRef<{ id: string; colours: string[] }> = shallowRef({ id: '', colours: [] })
  readonly id: Ref<number> = ref(0)
  readonly undoName: Ref<string> = ref('')
  readonly redoName: Ref<string> = ref('')
  private version = -1
  private sending: Promise<unknown> = Promise.resolve()
  private waiting: Waiting | null = null
  private touched = -Infinity
  /** Paths that this desk has just changed. */
  private mine = new Set<string>()
  private settling = 0

  constructor(private readonly complain: (error: unknown) => void) {}

  /** Follow the news from the server. */
  follow(): void {
    watch(showNews, (news) => this.hear(news))
    watch(editNews, (news) => this.merge(news), { flush: 'sync' })
  }

  private get busy(): boolean {
    return this.waiting !== null || performance.now() - this.touched < OWN_MS
  }

  hear(news: ShowState | null): void {
    if (!news || (news.version <= this.version && news.id === this.id.value)) return
    // While a drag is under way this desk's own edits are newer than what comes back.
    if (this.busy) setTimeout(() => this.take(showNews.value), 200)
    else this.take(news)
  }

  private take(news: ShowState | null): void {
    if (!news || (news.version <= this.version && news.id === this.id.value)) return
    this.document.value = news.document as Show
    this.names.value = news.names
    this.id.value = news.id
    this.version = news.version
    this.undoName.value = news.undo
    this.redoName.value = news.redo
    this.palette.value = { id: news.palette, colours: news.colours }
  }

  merge(news: EditNews | null): void {
    if (!news || news.id !== this.id.value || news.version <= this.version) return
    if (news.from !== this.version) {
      void this.refresh()
      return
    }
    this.version = news.version
    this.undoName.value = news.undo
    this.redoName.value = news.redo
    this.palette.value = { id: news.palette, colours: news.colours }
    if (news.names) this.names.value = news.names
    const busy = this.busy
    for (const { path, value } of news.changes) {
      if (!busy || !this.mine.has(path)) this.put(path, value)
    }
    if (!busy) this.mine.clear()
    if (busy) {
      clearTimeout(this.settling)
      this.settling = window.setTimeout(() => void this.refresh(), SETTLE_MS)
    }
  }

  /** Take the document as it is: after a gap in the news, and when a drag has ended. */
  async refresh(): Promise<void> {
    if (this.waiting) {
      this.settling = window.setTimeout(() => void this.refresh(), 200)
      return
    }
    try {
      const now = await api.show()
      if (this.waiting || now.version < this.version) return
      this.version = -1
      this.take(now)
    } catch (error) {
      this.complain(error)
    }
  }

  private put(path: string, value: unknown): void {
    if (this.document.value) this.document.value = withValue(this.document.value, path, value) as Show
  }

  /** An item at another place of its list, at once: what is dragged is where it was let go. */
  private move(path: string, index: number): void {
    const at = path.lastIndexOf('/')
    const items = valueAt(this.document.value, path.slice(0, at)) as { id: string }[] | undefined
    const item = items?.find(({ id }) => id === path.slice(at + 1))
    if (!items || !item) return
    const rest = items.filter((each) => each !== item)
    this.put(path.slice(0, at), [...rest.slice(0, index), item, ...rest.slice(index)])
    this.mine.add(path.slice(0, at))
  }

  /** Make an edit: shown here at once, sent in order; of a drag's edits only the newest waits. */
  edit(change: Edit, name: string, gesture = ''): void {
    for (const each of change.edit === 'together' ? change.edits : [change]) {
      if (each.edit === 'move') this.move(each.path, each.index)
      if (each.edit !== 'set') continue
      this.put(each.path, each.value)
      this.mine.add(each.path)
    }
    this.touched = performance.now()
    if (this.waiting && gesture && this.waiting.gesture === gesture && samePlace(this.waiting.edit, change)) {
      this.waiting.edit = change
      return
    }
    const own: Waiting = { edit: change, name, gesture }
    this.waiting = own
    this.sending = this.sending.then(() => this.send(own))
  }

  private async send(own: Waiting): Promise<void> {
    if (this.waiting === own) this.waiting = null
    try {
      await api.edit(own.edit, own.name, own.gesture)
    } catch (error) {
      this.complain(error)
      this.version = -1
      void this.refresh()
    }
  }

  async step(which: 'undo' | 'redo'): Promise<void> {
    await this.sending
    try {
      await api.step(which)
    } catch (error) {
      this.complain(error)
    }
  }
}

function samePlace(edit: Edit, other: Edit): boolean {
  if (edit.edit === 'together' && other.edit === 'together')
    return (
      edit.edits.length === other.edits.length &&
      edit.edits.every((each, index) => samePlace(each, other.edits[index]!))
    )
  return edit.edit === 'set' && other.edit === 'set' && edit.path === other.path
}
