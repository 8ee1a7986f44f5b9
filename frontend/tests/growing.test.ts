import { createApp, h, ref } from 'vue'
import { expect, it, vi } from 'vitest'
import TextField from '@/ui/TextField.vue'

it('a line that grows sends its form by Enter, and stays one line when several are pasted', () => {
  const [send, typed] = [vi.fn(), ref('')]
  const form = document.createElement('form')
  form.requestSubmit = send
  document.body.append(form)
  createApp({
    render: () =>
      h(TextField, {
        label: 'What it is',
        grows: true,
        modelValue: typed.value,
        'onUpdate:modelValue': (text: unknown) => (typed.value = String(text)),
      }),
  }).mount(form)
  const area = form.querySelector('textarea')!
  area.value = 'Wave-pool\r\npump'
  area.dispatchEvent(new Event('input'))
  expect(typed.value).toBe('Wave-pool pump')
  const enter = new KeyboardEvent('keydown', { key: 'Enter', cancelable: true })
  area.dispatchEvent(enter)
  area.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', isComposing: true }))
  expect([send.mock.calls.length, enter.defaultPrevented]).toEqual([1, true])
})
