// From one number that is typed to the next: as Tab goes through a table.

/** Begin to type the number after (or before) this control, within the same list of controls. */
export function nextNumber(control: HTMLElement | undefined, back: boolean): void {
  const list = control?.closest('.scroll, section, aside, main')
  const all = [...(list?.querySelectorAll<HTMLElement>('[data-parameter] [role=slider]') ?? [])].filter(
    (slider) => slider.offsetParent,
  )
  const at = all.findIndex((slider) => control?.contains(slider))
  const next = all[at + (back ? -1 : 1)]
  next?.scrollIntoView({ block: 'nearest' })
  next?.closest('[data-parameter]')?.querySelector<HTMLElement>('.read')?.click()
}
