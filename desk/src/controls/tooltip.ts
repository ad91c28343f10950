// The component library's tooltip. It would write its styles anew whenever anything near it is drawn anew, many times
// a second: it hears only of words that have changed.
import Tooltip from 'primevue/tooltip'
import type { ObjectDirective } from 'vue'

const whole = Tooltip as ObjectDirective<HTMLElement>

export const tooltip: ObjectDirective<HTMLElement> = {
  ...whole,
  beforeUpdate(...given) {
    if (given[1].value !== given[1].oldValue) whole.beforeUpdate?.(...given)
  },
  updated(...given) {
    if (given[1].value !== given[1].oldValue) whole.updated?.(...given)
  },
}
