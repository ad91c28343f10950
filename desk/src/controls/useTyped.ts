// What is being typed stays as it is, whatever news arrive meanwhile; it belongs to where typing began.
import { onBeforeUnmount, ref, watch } from 'vue'

/** Text of a box, taken over from a value while nobody types in it. take: what is done with what was typed. */
export function useTyped<T>(value: () => string, here: () => T, take: (text: string, where: T) => void) {
  const text = ref(value())
  let began: { text: string; where: T } | null = null
  watch(value, (now) => {
    if (!began) text.value = now
  })
  function begin(): void {
    began ??= { text: value(), where: here() }
  }
  function end(): void {
    const from = began
    began = null
    // A box for numbers makes numbers of what is typed.
    const typed = String(text.value)
    if (from && typed !== from.text) take(typed, from.where)
    text.value = value()
  }
  function leave(): void {
    began = null
    text.value = value()
  }
  // What is taken away while it is typed in was meant nevertheless.
  onBeforeUnmount(end)
  return { text, begin, end, leave }
}
