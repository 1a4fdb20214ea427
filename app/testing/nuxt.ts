import * as vueuse from '@vueuse/core'
import { createPinia, setActivePinia } from 'pinia'
import * as vue from 'vue'

/** What the build imports by itself, for code of the app that is tried without a browser. Each test says what else it needs. */
export function provideNuxt(more: Record<string, unknown> = {}): void {
  const states = new Map<string, vue.Ref>()
  const useState = (key: string, init: () => unknown) => {
    if (!states.has(key)) states.set(key, vue.ref(init()))
    return states.get(key)
  }
  Object.assign(globalThis, vue, vueuse, { useState }, more)
  setActivePinia(createPinia())
}

/** Runs something that belongs to a screen. @returns what it made, and how the screen is left */
export function onScreen<T>(setup: () => T): { made: T; leave(): void } {
  const scope = vue.effectScope()
  return { made: scope.run(setup)!, leave: () => scope.stop() }
}

/** A live connection that says what it is told to. */
export function fakeFeed() {
  const listeners = new Set<(change: object) => void>()
  const resets = new Set<() => void>()
  const feed = vue.reactive({
    status: 'live' as 'live' | 'lost' | 'connecting' | 'off',
    listen(listener: (change: object) => void, onReset?: () => void) {
      listeners.add(listener)
      if (onReset) resets.add(onReset)
      return () => {
        listeners.delete(listener)
        if (onReset) resets.delete(onReset)
      }
    },
    says: (change: object) => listeners.forEach((listener) => listener(change)),
    resets: () => resets.forEach((reset) => reset()),
  })
  return feed
}

/** Answers of a server, given when the test says so, in whatever order. */
export function fakeApi() {
  const asked: { route: string; given: unknown; answer(value: unknown): Promise<void>; fail(status: number): Promise<void> }[] = []
  const api = (route: string, given?: unknown) =>
    new Promise((resolve) => {
      const after = async (result: unknown) => {
        resolve(result)
        await settle()
      }
      asked.push({
        route,
        given,
        answer: (value) => after({ ok: true, value }),
        fail: (status) => after({ ok: false, problem: { status, code: 'x', message: 'It did not go.', details: null } }),
      })
    })
  return { api, asked }
}
/** Whatever follows from what is known now has happened. */
export const settle = () => new Promise<void>((resolve) => setTimeout(resolve, 0))
