/** For a field that was just opened: what is typed next belongs there. */
export function focused(field: HTMLElement | null) {
  field?.focus()
}
