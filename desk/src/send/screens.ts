// The screens of this machine, where the browser tells of them (W3C Window Management), and filling one.
import { computed, ref, shallowRef } from 'vue'

export interface ScreenInfo extends Screen {
  label?: string
  availLeft?: number
  availTop?: number
}
interface Details extends EventTarget {
  screens: ScreenInfo[]
  currentScreen: ScreenInfo
}
declare global {
  interface Window {
    getScreenDetails?: () => Promise<Details>
  }
}

export function useScreens() {
  const details = shallowRef<Details | null>(null)
  const screens = shallowRef<ScreenInfo[]>([])
  const chosen = ref(-1)
  const supported = 'getScreenDetails' in window
  const name = computed(() => screens.value[chosen.value]?.label ?? '')

  /** Ask for them; the browser asks its user once. */
  async function look(): Promise<void> {
    if (!supported || details.value) return
    try {
      const found = await window.getScreenDetails!()
      details.value = found
      const take = (): void => {
        screens.value = [...found.screens]
        // A screen that was unplugged is not filled any more: the one that the page lies on is.
        if (chosen.value >= screens.value.length) chosen.value = -1
      }
      found.addEventListener('screenschange', take)
      take()
    } catch {
      // Not allowed: the screen that the page lies on can still be filled.
    }
  }

  function fill(): void {
    if (document.fullscreenElement) void document.exitFullscreen()
    else ask()
  }

  function ask(): void {
    const screen = screens.value[chosen.value]
    const options = (screen ? { screen } : {}) as FullscreenOptions
    document.documentElement.requestFullscreen(options).catch(() => undefined)
  }

  /** Fill the next screen. */
  async function next(): Promise<void> {
    await look()
    if (!screens.value.length) return fill()
    chosen.value = (chosen.value + 1) % screens.value.length
    ask()
  }

  return { supported, screens, chosen, name, look, fill, next }
}
