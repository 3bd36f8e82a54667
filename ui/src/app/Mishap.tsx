import { Component, type ReactNode } from 'react'
import { useLocation } from 'react-router'

class Boundary extends Component<{ children: ReactNode; at: string }, { broken: boolean }> {
  override state = { broken: false }

  static getDerivedStateFromError() {
    return { broken: true }
  }

  override componentDidUpdate(before: { at: string }) {
    if (before.at !== this.props.at) this.setState({ broken: false })
  }

  override render() {
    if (!this.state.broken) return this.props.children
    return (
      <div role="alert" className="max-w-lg mt-24 mx-auto">
        <h1 className="text-2xl mb-2">This page cannot be drawn</h1>
        <p className="mb-4">
          That is a fault of ours. What was saved is saved, what was half typed is kept, and the other pages go on.
        </p>
        <button type="button" className="btn btn-sm btn-primary" onClick={() => this.setState({ broken: false })}>
          Draw it again
        </button>
      </div>
    )
  }
}

/** A screen that cannot be drawn says so in its place; the shell around it and every other screen go on. */
export function Mishap({ children }: { children: ReactNode }) {
  const { pathname } = useLocation()
  return <Boundary at={pathname}>{children}</Boundary>
}
