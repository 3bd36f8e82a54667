import type { ReactNode } from 'react'
import { Link } from 'react-router'
import { api, ask } from '../../api/client'
import { plural } from '../../app/format'
import { ListBehind } from '../../parts/ListBehind'
import { NumberBehind } from '../../parts/NumberBehind'

const PAGE = 60

/** A number of companies in which a field is filled, which opens them. */
export function CompaniesBehind({
  title,
  count,
  filled,
  children,
}: {
  title: string
  count: number
  filled: string
  children: ReactNode
}) {
  const load = async (cursor?: string) => {
    const offset = Number(cursor ?? 0)
    const page = await ask(api.POST('/api/companies/search', { body: { filled, offset, limit: PAGE } }))
    return { ...page, next_cursor: offset + PAGE < page.total ? String(offset + PAGE) : null }
  }
  return (
    <NumberBehind
      count={count}
      behind={(close) => (
        <ListBehind title={title} queryKey={['companies', filled]} load={load} onClose={close}>
          {(pages) => (
            <>
              <p className="muted mb-2">{plural(pages[0]?.total ?? 0, 'company', 'companies')}</p>
              <ul>
                {pages
                  .flatMap((page) => page.companies)
                  .map((company) => (
                    <li key={company.id} className="border-b border-base-300/60">
                      <Link to={`/companies/${company.id}`} onClick={close} className="row-link flex gap-3 py-2 px-1">
                        <span className="font-semibold grow truncate">{company.name}</span>
                        <span className="muted">{company.city ?? ''}</span>
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
