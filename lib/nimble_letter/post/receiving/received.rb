# frozen_string_literal: true

module NimbleLetter
  module Post
    # A piece of mail as it was understood, whatever state it was in. Every value may be missing.
    # headers: names in lower case; candidates: Message-IDs of ours it may answer, nearest first; bounce: BounceReader::Bounce
    Received =
      Struct.new(:message_id, :from_address, :from_name, :subject, :text, :headers, :candidates, :bounce, keyword_init: true) do
        def initialize(...)
          super
          freeze
        end
      end
  end
end
