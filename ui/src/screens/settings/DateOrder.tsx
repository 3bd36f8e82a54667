import { useMutation, useQueryClient } from '@tanstack/react-query'
import { api, ask, type Shape } from '../../api/client'
import { writeDate } from '../../app/dates'
import { useSession } from '../../app/session'
import { ErrorNote } from '../../parts/States'

const ORDERS: { order: Shape<'DateOrder'>; words: string }[] = [
  { order: 'dmy', words: 'the day first' },
  { order: 'mdy', words: 'the month first' },
  { order: 'ymd', words: 'the year first' },
]
const EXAMPLE = '2026-05-12'

/** In which order the firm writes its days, on every page and for everybody, whatever country a browser is from. */
export function DateOrder({ admin }: { admin: boolean }) {
  const { firm } = useSession()
  const client = useQueryClient()
  const choose = useMutation({
    mutationFn: (date_order: Shape<'DateOrder'>) => ask(api.PUT('/api/date-order', { body: { date_order } })),
    onSuccess: () => client.invalidateQueries({ queryKey: ['session'] }),
  })
  return (
    <section className="mb-8 max-w-3xl">
      <h2 className="border-b border-base-300 pb-1 mb-3">Days</h2>
      {choose.error && <ErrorNote error={choose.error} />}
      <label className="flex gap-3 items-center">
        <span>We write days with</span>
        <select
          className="select select-sm w-72 bg-[var(--sheet)]"
          disabled={!admin || choose.isPending}
          value={firm.date_order}
          onChange={(event) => choose.mutate(event.target.value as Shape<'DateOrder'>)}
        >
          {ORDERS.map(({ order, words }) => (
            <option key={order} value={order}>
              {words}: {writeDate(EXAMPLE, order)}
            </option>
          ))}
        </select>
      </label>
      <p className="muted text-xs mt-2">Shown and typed so on every page. Letters write their dates as the field in them says.</p>
    </section>
  )
}
