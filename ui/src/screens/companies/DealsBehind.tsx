import type { ReactNode } from 'react'
import { Link } from 'react-router'
import { api, ask, type Shape } from '../../api/client'
import { money, plural } from '../../app/format'
import { ListBehind } from '../../parts/ListBehind'
import { NumberBehind } from '../../parts/NumberBehind'

type Asked = { stage?: string; company_id?: number; outcome?: Shape<'Stage'>['outcome'] }

/** A number of deals, which opens them; each leads to its person. */
export function DealsBehind({
  title,
  count,
  asked,
  children,
}: {
  title: string
  count: number
  asked: Asked
  children: ReactNode
}) {
  return (
    <NumberBehind
      count={count}
      behind={(close) => (
        <ListBehind
          title={title}
          queryKey={['deals', asked]}
          load={(cursor) => ask(api.GET('/api/deals', { params: { query: { ...asked, cursor } } }))}
          onClose={close}
        >
          {(pages) => (
            <>
              <p className="muted mb-2">
                {plural(pages[0]?.total ?? 0, 'deal')}, {money(pages[0]?.value_pence ?? 0)}
              </p>
              <ul>
                {pages
                  .flatMap((page) => page.deals)
                  .map((deal) => (
                    <li key={deal.id} className="border-b border-base-300/60">
                      <Link
                        to={`/people/${deal.person_id}`}
                        onClick={close}
                        className="row-link grid grid-cols-[1.4fr_1fr_1fr_90px] gap-3 py-2 px-1"
                      >
                        <span className="font-semibold truncate">{deal.name}</span>
                        <span className="truncate">{deal.person}</span>
                        <span className="muted truncate">{deal.stage_words}</span>
                        <span className="text-right">{money(deal.value_pence)}</span>
                      </Link>
                    </li>
                  ))}
              </ul>
            </>
          )}
        </ListBehind>
      )}
    >
      {children}
    </NumberBehind>
  )
}
