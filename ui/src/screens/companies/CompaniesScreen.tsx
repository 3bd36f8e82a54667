import { keepPreviousData, useMutation, useQuery } from '@tanstack/react-query'
import { type FormEvent, useDeferredValue } from 'react'
import { Link, useNavigate } from 'react-router'
import { api, ask } from '../../api/client'
import { money, number, plural } from '../../app/format'
import { useCatalogue } from '../../app/useCatalogue'
import { useDraft } from '../../app/useDraft'
import { useInAddress } from '../../app/useInAddress'
import { Header } from '../../parts/Header'
import { ErrorNote, Loading } from '../../parts/States'
import { PeopleCount } from '../people/behind/PeopleCount'
import { PeoplePlaces } from '../people/PeoplePlaces'
import { DealsBehind } from './DealsBehind'

const PAGE = 60
const ALL = { q: '', page: '0' }

/** The organisations people belong to, by name. */
export function CompaniesScreen() {
  const navigate = useNavigate()
  const { data: catalogue } = useCatalogue()
  const [shown, show] = useInAddress(ALL)
  const [name, setName, sent] = useDraft('a new company', '')
  const searched = useDeferredValue(shown.q)
  const page = Math.max(0, Number.parseInt(shown.page, 10) || 0)
  const { data, error } = useQuery({
    queryKey: ['companies', searched, page],
    queryFn: ({ signal }) =>
      ask(api.POST('/api/companies/search', { body: { words: searched, offset: page * PAGE, limit: PAGE }, signal })),
    placeholderData: keepPreviousData,
  })
  const add = useMutation({
    mutationFn: () => ask(api.POST('/api/companies', { body: { values: { 'company.name': name.trim() } } })),
    onSuccess: (made) => {
      sent()
      navigate(`/companies/${made.id}`)
    },
  })
  const submit = (event: FormEvent) => {
    event.preventDefault()
    if (name.trim()) add.mutate()
  }
  const types = catalogue?.fields.find((field) => field.key === 'company.type')?.choices ?? []
  return (
    <>
      <Header
        title="Companies"
        aside={<span className="muted">{data && plural(data.total, 'company', 'companies')}</span>}
        actions={
          <>
            <input
              className="text-field !w-56"
              type="search"
              placeholder="Name"
              aria-label="Find a company"
              value={shown.q}
              onChange={(event) => show({ q: event.target.value, page: ALL.page })}
            />
            <form onSubmit={submit} className="flex gap-2">
              <input
                className="text-field !w-48"
                aria-label="Name of a new company"
                placeholder="A new company"
                value={name}
                onChange={(event) => setName(event.target.value)}
              />
              <button type="submit" className="btn btn-sm btn-plain" disabled={!name.trim()}>
                Add
              </button>
            </form>
          </>
        }
      />
      <PeoplePlaces />
      {(error || add.error) && <ErrorNote error={error ?? add.error} />}
      {!data && !error && <Loading lines={8} />}
      {data && (
        <table className="plain w-full">
          <thead>
            <tr>
              <th>Name</th>
              <th>Type</th>
              <th>City</th>
              <th className="!text-right">People</th>
              <th className="!text-right">Open deals</th>
            </tr>
          </thead>
          <tbody>
            {data.companies.map((company) => (
              <tr key={company.id} className="row-link">
                <td className="font-semibold">
                  <Link to={`/companies/${company.id}`}>{company.name}</Link>
                </td>
                <td>{types.find((type) => type.value === company.type)?.words ?? <span className="muted">—</span>}</td>
                <td>{company.city ?? <span className="muted">—</span>}</td>
                <td className="text-right">
                  <PeopleCount
                    bare
                    title={company.name}
                    count={company.people}
                    condition={{ field: 'company.name', is: 'one_of', value: [company.name] }}
                  />
                </td>
                <td className="text-right">
                  <DealsBehind
                    title={`Open deals with ${company.name}`}
                    count={company.open_deals}
                    asked={{ company_id: company.id, outcome: 'open' }}
                  >
                    {company.open_deals > 0 ? `${number(company.open_deals)}, ${money(company.open_pence)}` : '—'}
                  </DealsBehind>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {data && data.total > PAGE && (
        <div className="flex gap-3 items-center mt-3">
          <button
            type="button"
            className="btn btn-sm btn-plain"
            disabled={page === 0}
            onClick={() => show({ page: String(page - 1) })}
          >
            Before
          </button>
          <span className="muted">
            {number(page * PAGE + 1)} to {number(Math.min(data.total, (page + 1) * PAGE))}
          </span>
          <button
            type="button"
            className="btn btn-sm btn-plain"
            disabled={(page + 1) * PAGE >= data.total}
            onClick={() => show({ page: String(page + 1) })}
          >
            Next
          </button>
        </div>
      )}
    </>
  )
}
