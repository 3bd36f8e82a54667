import type { QueryClient } from '@tanstack/react-query'

/** What the page keeps of the server's answers: the first word of every query key. */
export type Kept =
  | 'behind'
  | 'blocked'
  | 'catalogue'
  | 'change'
  | 'changes'
  | 'checks'
  | 'clock'
  | 'colleagues'
  | 'companies'
  | 'company'
  | 'deal'
  | 'doubles'
  | 'fields'
  | 'filters'
  | 'history'
  | 'imports'
  | 'join'
  | 'joining'
  | 'left-over'
  | 'letter'
  | 'letter-audience'
  | 'letters'
  | 'lists'
  | 'look'
  | 'mailboxes'
  | 'members'
  | 'passage'
  | 'passages'
  | 'people'
  | 'person'
  | 'pictures'
  | 'post'
  | 'practice-letter'
  | 'practice-letters'
  | 'own-words'
  | 'preferences'
  | 'presence'
  | 'preview'
  | 'proposal'
  | 'proposed'
  | 'reader'
  | 'ready'
  | 'replies'
  | 'rehearsal'
  | 'results'
  | 'safety-log'
  | 'search'
  | 'sent'
  | 'sequence'
  | 'sequences'
  | 'session'
  | 'sessions'
  | 'set-aside'
  | 'sieve'
  | 'signatures'
  | 'stack'
  | 'stages'
  | 'starters'
  | 'tags'
  | 'tasks'
  | 'tests'
  | 'today'
  | 'version'
  | 'versions'

// Every query key begins with one of these; the compiler sees to it.
declare module '@tanstack/react-query' {
  interface Register {
    queryKey: readonly [Kept, ...unknown[]]
  }
}

/** What shows something, and is read anew once that has changed. */
const AFTER = {
  change: [
    'people',
    'person',
    'sieve',
    'catalogue',
    'history',
    'lists',
    'tags',
    'filters',
    'behind',
    'company',
    'doubles',
    'changes',
    'imports',
    'members',
    'sequence',
    'proposed',
    'results',
    'post',
    'stack',
    'colleagues',
  ],
  colleagues: ['colleagues', 'safety-log'],
  company: ['companies', 'people', 'person', 'sieve', 'catalogue'],
  deal: ['person', 'company', 'history', 'people', 'sieve', 'stages'],
  fields: ['fields', 'catalogue', 'person', 'company', 'filters'],
  file: ['people', 'sieve', 'catalogue', 'lists', 'changes'],
  joined: ['joining', 'sequence', 'proposed', 'sequences', 'members', 'post', 'people', 'results', 'stack'],
  joining: ['joining', 'today', 'ready', 'sequence', 'proposed'],
  letter: ['letters', 'preview', 'proposal', 'checks', 'letter-audience', 'versions', 'stack', 'sequence', 'proposed', 'ready'],
  line: ['stack', 'sequence', 'proposed', 'ready'],
  lists: ['lists', 'filters', 'catalogue', 'sieve'],
  look: ['preview', 'checks', 'ready'],
  mailboxes: ['mailboxes', 'catalogue', 'sequence', 'proposed', 'ready', 'today', 'signatures', 'colleagues'],
  members: ['members', 'results', 'sequence', 'proposed', 'post'],
  no: ['person', 'people', 'sieve', 'history', 'blocked'],
  passage: ['passages', 'preview', 'checks', 'versions', 'stack'],
  person: [
    'people',
    'history',
    'sieve',
    'stack',
    'letter',
    'catalogue',
    'sequence',
    'proposed',
    'ready',
    'company',
    'doubles',
    'colleagues',
  ],
  safety: ['sessions', 'safety-log'],
  proposal: ['proposal', 'today'],
  sequence: [
    'joining',
    'proposal',
    'proposed',
    'ready',
    'sequences',
    'stack',
    'post',
    'today',
    'members',
    'results',
    'preview',
    'checks',
    'letter-audience',
  ],
  signatures: ['preview', 'stack'],
  stages: ['stages', 'catalogue', 'person', 'company'],
  task: ['tasks', 'today', 'members', 'history', 'person', 'sequence', 'proposed', 'results', 'post', 'colleagues'],
  tags: ['tags', 'catalogue', 'people', 'person', 'filters', 'sieve'],
} as const satisfies Record<string, readonly Kept[]>

/** Has the page read anew what shows this. */
export function stale(client: QueryClient, changed: keyof typeof AFTER) {
  for (const key of AFTER[changed]) client.invalidateQueries({ queryKey: [key] })
}
