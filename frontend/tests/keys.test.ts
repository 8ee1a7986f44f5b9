import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { createApp, type App } from 'vue'
import { singleKeys, useShortcuts } from '@/app/shortcuts'

const act = vi.fn<() => void>()
const help = vi.fn<() => void>()
let app: App

beforeEach(() => {
  act.mockReset()
  help.mockReset()
  singleKeys.value = true
  document.body.innerHTML = '<main tabindex="0"></main><input /><textarea></textarea><select></select>'
  app = createApp({ setup: () => (useShortcuts({ e: act, '?': help }), () => null) })
  app.mount(document.createElement('div'))
})
afterEach(() => app.unmount()) // a second time is nothing

function press(key: string, more: KeyboardEventInit = {}, on = 'main'): KeyboardEvent {
  const event = new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true, ...more })
  document.querySelector(on)?.dispatchEvent(event)
  return event
}

describe('a single key', () => {
  it('acts, and does nothing else', () => {
    expect(press('e').defaultPrevented).toBe(true)
    expect(act).toHaveBeenCalledTimes(1)
  })

  it.each(['input', 'textarea', 'select'])('is a letter in %s', (field) => {
    expect(press('e', {}, field).defaultPrevented).toBe(false)
    expect(act).not.toHaveBeenCalled()
  })

  it.each([{ ctrlKey: true }, { metaKey: true }, { altKey: true }, { repeat: true }])(
    'is another thing with %o',
    (more) => {
      press('e', more)
      expect(act).not.toHaveBeenCalled()
    },
  )

  it('does nothing behind an open dialog', () => {
    document.body.insertAdjacentHTML('beforeend', '<div role="dialog"></div>')
    press('e')
    expect(act).not.toHaveBeenCalled()
  })

  it('does nothing where they are switched off, but for the one that lists them', () => {
    singleKeys.value = false
    press('e')
    press('?')
    expect([act.mock.calls.length, help.mock.calls.length]).toEqual([0, 1])
  })

  it('is gone with what asked for it', () => {
    app.unmount()
    press('e')
    expect(act).not.toHaveBeenCalled()
  })
})
