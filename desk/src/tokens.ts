// Every colour and size of the desk. They become CSS variables for our own parts and PrimeVue's theme for its
// parts.
import { definePreset } from '@primeuix/themes'
import Aura from '@primeuix/themes/aura'

export const tokens = {
  ground: '#0c0a12',
  panel: '#14111c',
  raised: '#1d1928',
  edge: '#2d2740',
  edgeStrong: '#6a6183',
  text: '#f1ecf6',
  soft: '#aaa1b8',
  bolt: '#ffd84d',
  ember: '#ff7d5c',
  moss: '#8ddc8f',
  ice: '#86c5ff',
  hand: '#c9adff',
  alarm: '#ff5c7a',
} as const

export function installTokens(): void {
  for (const [name, value] of Object.entries(tokens)) {
    document.documentElement.style.setProperty(
      `--${name.replace(/[A-Z]/g, (c) => `-${c.toLowerCase()}`)}`,
      value,
    )
  }
}

const ink = {
  0: tokens.text,
  50: tokens.text,
  100: tokens.text,
  200: tokens.text,
  300: tokens.soft,
  400: tokens.soft,
  500: tokens.edgeStrong,
  600: tokens.edge,
  700: tokens.edge,
  800: tokens.raised,
  900: tokens.panel,
  950: tokens.ground,
}
const lilac = {
  50: tokens.hand,
  100: tokens.hand,
  200: tokens.hand,
  300: tokens.hand,
  400: tokens.hand,
  500: tokens.hand,
  600: tokens.hand,
  700: tokens.hand,
  800: tokens.hand,
  900: tokens.hand,
  950: tokens.hand,
}

export const theme = definePreset(Aura, {
  semantic: {
    primary: lilac,
    focusRing: { width: '2px', style: 'solid', color: tokens.bolt, offset: '2px' },
    colorScheme: {
      dark: {
        surface: ink,
        primary: {
          color: tokens.hand,
          contrastColor: tokens.ground,
          hoverColor: tokens.text,
          activeColor: tokens.text,
        },
        formField: { background: tokens.ground, borderColor: tokens.edge, color: tokens.text },
      },
    },
  },
})

const ramp = [tokens.ember, tokens.moss, tokens.ice].map((hex) =>
  [1, 3, 5].map((i) => parseInt(hex.slice(i, i + 2), 16)),
)

/** A pitch (0 low to 1 high) as red, green, blue 0..255 on the ember, moss, ice ramp. */
export function pitchRgb(pitch: number): [number, number, number] {
  const at = Math.min(1, Math.max(0, pitch)) * 2
  const i = at < 1 ? 0 : 1
  const part = at - i
  return [0, 1, 2].map((c) => Math.round(ramp[i]![c]! * (1 - part) + ramp[i + 1]![c]! * part)) as [
    number,
    number,
    number,
  ]
}

const BY: Record<string, string> = { hand: tokens.hand, sound: tokens.moss }

/** A signal's colour: by pitch, lilac for what a hand makes, bolt yellow for what is made from the beat. */
export function signalColour(signal: { pitch?: number | null; by?: string } | null | undefined): string {
  if (signal?.pitch != null) return `rgb(${pitchRgb(signal.pitch).join()})`
  return BY[signal?.by ?? ''] ?? tokens.bolt
}
