// Text that is looked at in every frame, and laid out only when it has changed.
export function write(element: HTMLElement | null | undefined, text: string): void {
  if (element && element.textContent !== text) element.textContent = text
}
