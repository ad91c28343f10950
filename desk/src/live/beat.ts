// The beat as the desk needs it beside its lamps: how long one lasts.
import { ref } from 'vue'

/** Seconds from one beat to the next. */
export const beatS = ref(0.5)
