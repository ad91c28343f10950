// What is wrong with the patch, asked anew when lamps have changed.
import { computed, ref, watch } from 'vue'
import { api, type Clash } from '../api/api'
import { useShow } from '../live/show'

const clashes = ref<Clash[]>([])
let asked = ''

export function useClashes() {
  const show = useShow()
  watch(
    () =>
      (show.document?.lamps ?? [])
        .map(
          (lamp) =>
            `${lamp.id} ${lamp.universe}.${lamp.address} ${lamp.fixture.kind} ${lamp.mode} ${lamp.pixels}`,
        )
        .join(),
    (now) => {
      if (now === asked) return
      asked = now
      api.lamps
        .clashes()
        .then((found) => (clashes.value = found))
        .catch(() => (asked = ''))
    },
    { immediate: true },
  )
  return { clashes, bad: computed(() => new Set(clashes.value.map((clash) => clash.lamp))) }
}
