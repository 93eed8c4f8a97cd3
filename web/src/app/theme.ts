/** Light or dark: as the device says, until somebody chooses. */

const KEY = 'keen-beaker-theme'
export type Theme = 'light' | 'dark'

export function currentTheme(): Theme {
  const chosen = localStorage.getItem(KEY)
  if (chosen === 'light' || chosen === 'dark') return chosen
  return window.matchMedia('(prefers-color-scheme: dark)').matches ? 'dark' : 'light'
}

export function applyTheme(): void {
  document.documentElement.dataset['theme'] = currentTheme()
}

export function chooseTheme(theme: Theme): void {
  localStorage.setItem(KEY, theme)
  applyTheme()
}
