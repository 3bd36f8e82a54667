import { cleanup, configure } from '@testing-library/react'
import { afterEach, beforeEach } from 'vitest'

// Node knows no page that an address could be relative to; a browser does.
const NodeRequest = globalThis.Request
globalThis.Request = class extends NodeRequest {
  constructor(input: RequestInfo | URL, init?: RequestInit) {
    super(typeof input === 'string' ? new URL(input, 'http://desk.example') : input, init)
  }
}

// A busy machine is no fault of the page.
configure({ asyncUtilTimeout: 20_000 })

// What jsdom leaves out and the screens use.
HTMLDialogElement.prototype.showModal ??= function (this: HTMLDialogElement) {
  this.open = true
}
globalThis.ResizeObserver ??= class {
  observe() {}
  unobserve() {}
  disconnect() {}
}

afterEach(cleanup)
// Not when a page is left: what it could not save then it keeps here a moment later.
beforeEach(() => localStorage.clear())
