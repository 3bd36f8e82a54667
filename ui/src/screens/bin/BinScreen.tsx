import { useState } from 'react'
import { plural } from '../../app/format'
import { useCatalogue } from '../../app/useCatalogue'
import { Header } from '../../parts/Header'
import { Empty, Loading } from '../../parts/States'
import { DoMany } from '../people/acting/DoMany'
import { PeoplePlaces } from '../people/PeoplePlaces'
import { type Chosen, NOBODY, PeopleTable } from '../people/table/PeopleTable'
import { PersonBeside } from '../people/table/PersonBeside'

const VIEW = { columns: ['company.name', 'person.email', 'person.city', 'person.owner'], sort: null }

/** Records that were put away: for thirty days they can be taken out again. */
export function BinScreen() {
  const { data: catalogue } = useCatalogue()
  const [chosen, setChosen] = useState<Chosen>(NOBODY)
  const [beside, setBeside] = useState<number | null>(null)
  const [total, setTotal] = useState<number | undefined>()
  if (!catalogue) return <Loading />
  const count = chosen.all ? Math.max(0, (total ?? 0) - chosen.ids.size) : chosen.ids.size
  return (
    <div className="h-full flex flex-col min-h-0">
      <Header
        title="Bin"
        aside={<span className="muted">{total !== undefined && plural(total, 'record')}</span>}
        actions={
          count > 0 && (
            <DoMany
              binned
              people={
                chosen.all && chosen.ids.size === 0 ? { binned: true, everybody: true } : { binned: true, ids: [...chosen.ids] }
              }
              count={count}
              view={VIEW}
              catalogue={catalogue}
              onDone={() => setChosen(NOBODY)}
            />
          )
        }
      />
      <PeoplePlaces />
      <p className="muted mb-2">After 30 days a record here is emptied: who it was goes, what happened stays in the figures.</p>
      {total === 0 && <Empty>The bin is empty.</Empty>}
      <div className="grid grid-cols-[minmax(0,1fr)_266px] gap-5 grow min-h-0">
        <div className={`min-h-0 flex flex-col ${total === 0 ? 'invisible' : ''}`}>
          <PeopleTable
            asked={{ binned: true, ...VIEW }}
            catalogue={catalogue}
            chosen={chosen}
            open={beside}
            onChoose={setChosen}
            onOpen={setBeside}
            onView={() => undefined}
            onTotal={setTotal}
          />
        </div>
        <div>
          {beside !== null && <PersonBeside id={beside} audience={{ people: [beside] }} onClose={() => setBeside(null)} />}
        </div>
      </div>
    </div>
  )
}
