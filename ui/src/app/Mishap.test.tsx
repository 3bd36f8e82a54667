import { fireEvent, screen } from '@testing-library/react'
import { Link } from 'react-router'
import { describe, expect, it, vi } from 'vitest'
import { page } from '../testing/page'
import { Mishap } from './Mishap'

let broken = true
function Odd() {
  if (broken) throw new Error('odd')
  return <p>drawn</p>
}

describe('a screen that cannot be drawn', () => {
  it('says so in its place, and is drawn again or left', () => {
    vi.spyOn(console, 'error').mockImplementation(() => {})
    page('/odd').show(
      <>
        <Link to="/other">Another</Link>
        <Mishap>
          <Odd />
        </Mishap>
      </>,
    )
    expect(screen.getByRole('alert').textContent).toContain('This page cannot be drawn')
    fireEvent.click(screen.getByText('Draw it again'))
    expect(screen.getByRole('alert')).toBeTruthy()
    broken = false
    fireEvent.click(screen.getByText('Another'))
    expect(screen.getByText('drawn')).toBeTruthy()
  })
})
