# frozen_string_literal: true

module NimbleLetter
  module Core
    module Journey
      # What can happen to a member, and what each of them does by itself. Said here once, for the machine, for what marks a
      # person, and for what comes in by mail.
      module Happenings
        # takes_out: :always, :unless_switched_off, or nil. of: :every_sequence or :this_one. marks: what it says of the person.
        # reaction: something the person did themselves. waited_for: whether a lane can be about it.
        Kind = Struct.new(:takes_out, :of, :marks, :reaction, :waited_for, keyword_init: true)
        NOTHING = {}.freeze
        NONE = [].freeze
        NO = {do_not_mail: true}.freeze
        FAILED = {address_failed: true}.freeze

        KINDS = {
          "opened" => Kind.new(marks: NOTHING, reaction: true, waited_for: true),
          "clicked" => Kind.new(marks: NOTHING, reaction: true, waited_for: true),
          "replied" => Kind.new(takes_out: :unless_switched_off, of: :every_sequence, marks: NOTHING, reaction: true, waited_for: true),
          "converted" => Kind.new(takes_out: :unless_switched_off, of: :this_one, marks: NOTHING, reaction: false, waited_for: true),
          "task_done" => Kind.new(marks: NOTHING, reaction: false, waited_for: true),
          "bounced" => Kind.new(takes_out: :always, of: :every_sequence, marks: FAILED, reaction: false, waited_for: true),
          "refused" => Kind.new(takes_out: :always, of: :every_sequence, marks: FAILED, reaction: false, waited_for: false),
          "unsubscribed" => Kind.new(takes_out: :always, of: :every_sequence, marks: NO, reaction: false, waited_for: false),
          "complained" => Kind.new(takes_out: :always, of: :every_sequence, marks: NO, reaction: false, waited_for: false),
          "taken_out" => Kind.new(takes_out: :always, of: :this_one, marks: NOTHING, reaction: false, waited_for: false)
        }.freeze
        # What people do themselves when they have had a letter; whoever did none of it stayed quiet.
        REACTIONS = KINDS.select { |_, kind| kind.reaction }.keys.freeze
        # What a lane can wait for.
        WAITED_FOR = KINDS.select { |_, kind| kind.waited_for }.keys.freeze
        # These take a member out whatever a plan says.
        ALWAYS_OUT = KINDS.select { |_, kind| kind.takes_out == :always }.keys.freeze
        # A plan may let its members stay after these.
        OPTIONALLY_OUT = KINDS.select { |_, kind| kind.takes_out == :unless_switched_off }.keys.freeze

        # Said of one letter these count once, however often they are said.
        ONCE = KINDS.select { |_, kind| kind.marks == NO }.keys.freeze

        # What says that somebody has had a step; nobody has one twice.
        HAD = %w[sent step_done].freeze
        # What says that somebody has gone through a fork, and in which lane.
        PARTED = "lane_taken"
        # What says that a step is behind somebody, however that came.
        BEHIND = [*HAD, "skipped", "went_without", PARTED].freeze

        BITS = KINDS.keys.each_with_index.to_h { |kind, i| [kind, 1 << i] }.freeze
        ALL = (1 << KINDS.size) - 1
        private_constant :BITS

        # @return [Integer] one bit for each kind; 0 for what is none of them
        def self.bit(kind) = BITS.fetch(kind, 0)

        # @return [Integer] those of some kinds together
        def self.bits(kinds) = kinds.inject(0) { |bits, kind| bits | bit(kind) }

        # @return [Hash{Symbol=>Boolean}] columns of the person
        def self.marks(kind) = KINDS[kind]&.marks || NOTHING

        # @return [Boolean] whether it is said of one letter once at most
        def self.once?(kind) = ONCE.include?(kind)

        # @return [Boolean] whether it may take somebody out
        def self.ends?(kind) = !KINDS[kind]&.takes_out.nil?

        # @return [Boolean] whether it is about every sequence the person is in
        def self.everywhere?(kind) = KINDS[kind]&.of == :every_sequence

        def self.reaction?(kind) = KINDS[kind]&.reaction || false
      end
    end
  end
end
