import { mergeAttributes, Node } from '@tiptap/core'
import { NodeViewContent, type NodeViewProps, NodeViewWrapper, ReactNodeViewRenderer } from '@tiptap/react'
import { useContext, useState } from 'react'
import type { Shape } from '../../../api/client'
import { number } from '../../../app/format'
import { Modal } from '../../../parts/Modal'
import { fromCondition, saidBy } from '../../people/asking/conditions'
import { Sentence } from '../../people/asking/Sentence'
import { AskInLetters } from '../../people/asking/useAskable'
import { ReadersBehind } from '../reading/ReadersBehind'
import { type AudienceCounts, WritingContext } from './writing'

function Question({
  condition,
  onKeep,
  onClose,
}: {
  condition: Shape<'Condition'>
  onKeep: (condition: Shape<'Condition'>) => void
  onClose: () => void
}) {
  const [sentence, setSentence] = useState(() => fromCondition(condition))
  const asked = saidBy(sentence)
  return (
    <Modal wide title="Who reads this passage" onClose={onClose}>
      <AskInLetters.Provider value={true}>
        <Sentence sentence={sentence} onChange={setSentence} />
      </AskInLetters.Provider>
      <p className="muted text-xs mt-2">The others read the second text, which may be empty.</p>
      <div className="flex justify-end gap-2 mt-4">
        <button type="button" className="btn btn-sm btn-plain" onClick={onClose}>
          Not now
        </button>
        <button
          type="button"
          className="btn btn-sm btn-primary"
          disabled={!asked}
          title={asked ? undefined : 'Finish the sentence first'}
          onClick={() => {
            if (asked) onKeep(asked)
            onClose()
          }}
        >
          Shown to them
        </button>
      </div>
    </Modal>
  )
}

/** How many read which side; each number opens its people. */
function Sides({ condition, seeing, audience }: { condition: Shape<'Condition'>; seeing: number; audience: AudienceCounts }) {
  const others = audience.total - seeing
  return (
    <>
      {' · '}
      <ReadersBehind
        letterId={audience.letterId}
        sequenceId={audience.sequenceId}
        asked={{ seeing: condition }}
        title="They read this passage"
        count={seeing}
      >
        {number(seeing)} of {number(audience.total)}
      </ReadersBehind>{' '}
      read it,{' '}
      <ReadersBehind
        letterId={audience.letterId}
        sequenceId={audience.sequenceId}
        asked={{ seeing: condition, others: true }}
        title="They read the other"
        count={others}
      >
        {number(others)}
      </ReadersBehind>{' '}
      the other
    </>
  )
}

function Conditional({ node, updateAttributes, deleteNode }: NodeViewProps) {
  const { audience } = useContext(WritingContext)
  const [asking, setAsking] = useState(false)
  const condition = node.attrs.condition as Shape<'Condition'>
  const asked = audience?.seeing[JSON.stringify(condition)]
  const seeing = asked?.people
  return (
    <NodeViewWrapper>
      <div className="letter-conditional my-3 border border-base-300 rounded-sm">
        <div contentEditable={false} className="font-sans text-xs px-3 py-1.5 border-b border-base-300 flex gap-3 items-baseline">
          <span className="grow">
            Shown to{' '}
            <button type="button" className="word" onClick={() => setAsking(true)}>
              {asked?.words ?? 'certain people'}
            </button>
            {audience && asked && (
              <span className="muted">
                {seeing == null ? (
                  ' · how many depends on the day'
                ) : (
                  <Sides condition={condition} seeing={seeing} audience={audience} />
                )}
              </span>
            )}
          </span>
          <button type="button" className="quiet-word !text-xs" onClick={deleteNode}>
            Take out
          </button>
        </div>
        <NodeViewContent className="letter-sides" />
      </div>
      {asking && (
        <Question
          condition={condition}
          onKeep={(changed) => updateAttributes({ condition: changed })}
          onClose={() => setAsking(false)}
        />
      )}
    </NodeViewWrapper>
  )
}

/** Two texts, of which each reader sees one: the first for those a condition holds for. */
export const ConditionalBlock = Node.create({
  name: 'conditional',
  group: 'block',
  content: 'side side',
  isolating: true,
  defining: true,
  addAttributes: () => ({ condition: { default: {} } }),
  parseHTML: () => [{ tag: 'div[data-conditional]' }],
  renderHTML: () => ['div', mergeAttributes({ 'data-conditional': '' }), 0],
  addNodeView: () => ReactNodeViewRenderer(Conditional),
})
