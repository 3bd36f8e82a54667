import type { Shape } from '../../../api/client'
import { useCatalogue } from '../../../app/useCatalogue'
import { Popover } from '../../../parts/Popover'
import type { Draft } from '../saving/draft'

/** What kind of letter it is: its category, its language, and whom it is written for. */
export function LetterAbout({
  letter,
  categories,
  onChange,
}: {
  letter: Pick<Shape<'Letter'>, 'category' | 'language' | 'about'>
  categories: string[]
  onChange: (draft: Draft) => void
}) {
  const { data: catalogue } = useCatalogue()
  const languages = catalogue?.letter_languages ?? []
  const language = languages.find((one) => one.value === letter.language)?.words ?? letter.language
  const words = [letter.category, language, letter.about === 'deal' ? 'people with a deal' : 'anybody']
    .filter(Boolean)
    .join(' · ')
  return (
    <Popover words={words} label="What kind of letter" className="quiet-word !text-xs">
      {() => (
        <div className="w-64 p-1 space-y-2">
          <label className="block">
            <span className="field-label">Category</span>
            <input
              className="text-field"
              list="letter-categories"
              defaultValue={letter.category ?? ''}
              maxLength={60}
              placeholder="none"
              onBlur={(event) => onChange({ category: event.target.value.trim() || null })}
            />
            <datalist id="letter-categories">
              {categories.map((category) => (
                <option key={category} value={category} />
              ))}
            </datalist>
          </label>
          <label className="block">
            <span className="field-label">Language, for its dates and numbers</span>
            <select
              className="select select-sm w-full bg-[var(--sheet)]"
              value={letter.language}
              onChange={(event) => onChange({ language: event.target.value })}
            >
              {languages.map((one) => (
                <option key={one.value} value={one.value}>
                  {one.words}
                </option>
              ))}
            </select>
          </label>
          <label className="block">
            <span className="field-label">Written for</span>
            <select
              className="select select-sm w-full bg-[var(--sheet)]"
              value={letter.about}
              onChange={(event) => onChange({ about: event.target.value as 'anybody' | 'deal' })}
            >
              <option value="anybody">anybody</option>
              <option value="deal">people with a deal, naming its fields</option>
            </select>
          </label>
        </div>
      )}
    </Popover>
  )
}
