# frozen_string_literal: true

module NimbleLetter
  module Post
    # What became of handing a letter over. Every transport answers with one of these and raises nothing. Each but Doubtful
    # says for certain whether the other side has the letter; `key` is the same for failures that are alike.
    module Outcomes
      # The other server took it: a real 2xx to the final dot.
      Accepted = Struct.new(:words)

      # The other server said no, so it has not got it. answer: Core::Sending::Answer
      Refused =
        Struct.new(:answer) do
          # @param words [String] as the server said it
          # @param stage [Symbol] see Core::Sending::Answer
          def self.said(words, stage) = new(Core::Sending::Answer.new(words, stage: stage))

          def words = answer.words

          def for_good? = answer.for_good?

          def about_address? = answer.about_address?

          def key = answer.key
        end

      # The end of the text did not reach the wire, so nobody can have got it.
      Unreachable =
        Struct.new(:words) do
          def for_good? = false

          def about_address? = false

          def key = "unreachable"
        end

      # The letter was handed over and no answer came that says what became of it: nobody here can know.
      Doubtful =
        Struct.new(:words) do
          def key = "doubtful"
        end
    end
  end
end
