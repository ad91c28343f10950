// Learning: in learn mode a click on what can be learnt asks for a control instead of doing it.
import { ref } from 'vue'
import { api, type LearnAsked } from '../api/api'
import { hearMidi } from '../live/midi'
import { useShow } from '../live/show'

export type Learnt = Pick<LearnAsked, 'does' | 'target' | 'action'>
export const learnMode = ref(false)

/** For v-bind: what a control would do that is learnt for this element. */
export const learns = (wanted: Learnt): { 'data-learn': string } => ({ 'data-learn': JSON.stringify(wanted) })
/** The same for an action without values of its own. */
export const learnsAction = (kind: string, values: Record<string, unknown> = {}): { 'data-learn': string } =>
  learns({ does: 'action', target: '', action: { id: 'learnt', family: 'action', kind, on: true, values } })

export function setLearnMode(on: boolean): void {
  learnMode.value = on
  document.body.toggleAttribute('data-learning', on)
  if (on) void hearMidi()
  else void api.mappings.learn({ does: '' })
}

/** Ask for a control that does this from now on. */
export function learn(wanted: Learnt): void {
  void hearMidi()
  api.mappings.learn(wanted).catch(useShow().complain)
}

/** Take a press in learn mode, before anything else does. */
export function takeLearning(event: Event): void {
  if (!learnMode.value || !(event.target instanceof Element)) return
  if (event.target.closest('[data-learns-not]')) return
  event.preventDefault()
  event.stopImmediatePropagation()
  const asked = event.target.closest<HTMLElement>('[data-learn]')
  if (asked && event.type === 'pointerdown') learn(JSON.parse(asked.dataset.learn!) as Learnt)
}
