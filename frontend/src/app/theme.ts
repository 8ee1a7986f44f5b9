import { ref } from 'vue'

const kept = localStorage.getItem('theme')
export const dark = ref(kept ? kept === 'dark' : matchMedia('(prefers-color-scheme: dark)').matches)

export function applyTheme(): void {
  document.documentElement.classList.toggle('dark', dark.value)
}

export function toggleTheme(): void {
  dark.value = !dark.value
  localStorage.setItem('theme', dark.value ? 'dark' : 'light')
  applyTheme()
}
