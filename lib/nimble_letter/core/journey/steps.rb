# frozen_string_literal: true

module NimbleLetter
  module Core
    module Journey
      # What a plan is made of. Frozen values with ids for life, equal by what they hold.
      module Steps
        # @api private
        def self.kind(*names, **defaults)
          Struct.new(*names, *defaults.keys, keyword_init: true) do
            define_method(:initialize) do |**given|
              super(**defaults, **given)
              freeze
            end
            # @return [Array<String>] kinds of what happens that it looks at, besides those that take somebody out
            define_method(:heeds) { Happenings::NONE }
          end
        end
        private_class_method :kind

        # timing: Calendar::Timing. only_for: a condition; others pass the step by. not_after: NotAfter or nil.
        COMMON = {timing: nil, only_for: nil, not_after: nil}.freeze

        # A letter. look_first: waits for somebody's nod. same_thread: answers the letter before. without_it: whether its member
        # goes on when its server gives up.
        Letter = kind(:id, :letter_id, **COMMON, look_first: false, same_thread: false, without_it: false)
        # Something a colleague does. of: "owner", "sender" or the number of a colleague. due_in: working days. waits: whether the
        # sequence waits for its outcome. outcomes: keys.
        Task = kind(:id, :words, **COMMON, of: "owner", due_in: 1, waits: true, outcomes: [])
        # @param owner [Integer, nil] of the person
        # @param sender [Integer, nil] whose mailbox they hear from
        # @return [Integer, nil] number of the colleague whose task it is; nil: nobody's yet
        Task.class_exec do
          def heeds = %w[task_done]

          def whose(owner, sender)
            return of if of.is_a?(Integer)

            (of == "sender") ? sender || owner : owner || sender
          end
        end
        # A change to the record, its deal or its membership: what, and to what, see ChangeKinds.
        Change = kind(:id, :what, :to, **COMMON)
        # Joining another sequence; stays: in this one too.
        HandOver = kind(:id, :sequence_id, **COMMON, stays: false)
        # Different ways on. within: how long reactions are waited for, as a Timing; nil: decided at once.
        Fork = kind(:id, :lanes, within: nil)
        Fork.class_exec do
          def heeds = lanes.map(&:test).grep(Reaction).map(&:kind).uniq
        end
        # One way out of a fork. test: Reaction, Holds, or nil for the "otherwise". comes_back: to the step after the fork.
        Lane = kind(:id, test: nil, words: nil, steps: [], comes_back: true)

        # A lane's test: something that happens. kind: of Happenings::WAITED_FOR. step_id: to which letter or task; nil: whichever.
        # link: its address as written, before merging; nil: any. outcome: of a task; nil: any.
        Reaction = kind(:kind, step_id: nil, link: nil, outcome: nil)
        # A lane's test: a condition of the one language.
        Holds = kind(:condition)
        # at: no later than this instant. seconds: no later than so long after it was due.
        NotAfter = kind(at: nil, seconds: nil)
      end
    end
  end
end
