// Whether the focus was just moved by Tab: who goes from value to value by keys means to type there; after a pull or
// a click the keys 1 to 6 go on opening the desk's places.
const JUST_NOW_MS = 150
let tabbed = -Infinity
window.addEventListener('keydown', (event) => event.key === 'Tab' && (tabbed = performance.now()), true)

export const byTab = (): boolean => performance.now() - tabbed < JUST_NOW_MS
