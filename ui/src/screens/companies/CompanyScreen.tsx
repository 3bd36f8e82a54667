import { useQuery, useQueryClient } from '@tanstack/react-query'
import { Link, useParams } from 'react-router'
import { api, ask } from '../../api/client'
import { inTheWay } from '../../app/away'
import { money, plural } from '../../app/format'
import { stale } from '../../app/stale'
import { useCatalogue } from '../../app/useCatalogue'
import { useInTurn } from '../../app/useInTurn'
import { FieldInput } from '../../parts/FieldInput'
import { Header } from '../../parts/Header'
import { ErrorNote, Loading } from '../../parts/States'
import { PeopleCount } from '../people/behind/PeopleCount'
import { DealRow } from '../person/Deals'
import { DealsBehind } from './DealsBehind'

/** One company: its record, its people, its deals. */
export function CompanyScreen() {
  const id = Number(useParams().id)
  const client = useQueryClient()
  const { data: catalogue } = useCatalogue()
  const { data: company, error } = useQuery({
    queryKey: ['company', id],
    queryFn: () => ask(api.GET('/api/companies/{id}', { params: { path: { id } } })),
  })
  const save = useInTurn(
    ['company', id],
    company,
    (values: Record<string, unknown>, version) =>
      ask(api.PATCH('/api/companies/{id}', { params: { path: { id } }, body: { values, version } })),
    {
      onSuccess: (saved) => {
        client.setQueryData(['company', id], saved)
        stale(client, 'company')
      },
    },
  )
  if (inTheWay(error, company)) return <ErrorNote error={error} />
  if (!company || !catalogue) return <Loading />
  const fields = catalogue.fields.filter(
    (field) => field.subject === 'company' && field.key in company.values && (!field.retired || company.values[field.key]),
  )
  const open = company.deals.filter((deal) => deal.outcome === 'open')
  return (
    <>
      <Header over={{ to: '/companies', words: 'Companies' }} title={company.name} />
      {save.error && <ErrorNote error={save.error} retry={() => client.invalidateQueries({ queryKey: ['company', id] })} />}
      <div className="grid grid-cols-[330px_minmax(0,1fr)] gap-10">
        <div key={company.id} className="grid grid-cols-[110px_minmax(0,1fr)] items-center content-start">
          {fields.map((field) => (
            <div key={field.key} className="contents">
              <span className="muted text-xs py-1.5">
                {field.key === 'company.name'
                  ? 'Name'
                  : field.label.replace(/^Company /, '').replace(/^./, (first) => first.toUpperCase())}
              </span>
              <FieldInput
                field={field}
                value={company.values[field.key]}
                colleagues={catalogue.colleagues}
                onSave={(value) => save.mutate({ [field.key]: value })}
              />
            </div>
          ))}
        </div>
        <div className="grid gap-6 content-start">
          <section>
            <h2 className="border-b border-base-300 pb-1 mb-1">
              <PeopleCount
                title={`At ${company.name}`}
                count={company.people_total}
                condition={{ field: 'company.name', is: 'one_of', value: [company.name] }}
              >
                {plural(company.people_total, 'person', 'people')}
              </PeopleCount>
            </h2>
            {company.people.map((person) => (
              <Link
                key={person.id}
                to={`/people/${person.id}`}
                className="row-link flex gap-3 py-1.5 px-1 border-b border-base-300/60"
              >
                <span className="font-semibold grow">{person.name}</span>
                <span className="muted">{person.email ?? 'no address'}</span>
                <span className="muted w-28 truncate text-right">{person.owner}</span>
              </Link>
            ))}
            {company.people.length === 0 && <p className="muted py-2">Nobody belongs to it yet.</p>}
          </section>
          <section>
            <h2 className="border-b border-base-300 pb-1 flex items-baseline">
              <span className="grow">Deals</span>
              {open.length > 0 && (
                <span className="muted text-xs font-sans">
                  <DealsBehind
                    title={`Open deals with ${company.name}`}
                    count={open.length}
                    asked={{ company_id: id, outcome: 'open' }}
                  >
                    {money(open.reduce((sum, deal) => sum + deal.value_pence, 0))} open
                  </DealsBehind>
                </span>
              )}
            </h2>
            <ul>
              {company.deals.map((deal) => (
                <DealRow key={deal.id} deal={deal} catalogue={catalogue} of="company" />
              ))}
            </ul>
            {company.deals.length === 0 && <p className="muted py-2">None. A deal is begun on a person’s record.</p>}
          </section>
        </div>
      </div>
    </>
  )
}
