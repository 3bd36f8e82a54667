# frozen_string_literal: true

module NimbleLetter
  module Web
    module Routes
      # Copies of sequences, and sequences as files: out, and in
      module Exchange
        # What these routes share.
        module Helpers
          # @return [String] a name that every file system takes
          def file_name(name) = "#{name.gsub(/[^\p{L}\p{N} ._-]+/, " ").strip[0, 80]}.json"
        end

        def self.registered(app)
          app.helpers Helpers

          app.post "/api/sequences/:id/copy" do
            copy = Work::CopySequence.call(fetch_record(Records::Sequence, params[:id], "sequence"), moment: moment)
            json(SequenceJson.new(copy, moment).write, 201)
          end

          app.get "/api/sequences/:id/file" do
            sequence = fetch_record(Records::Sequence, params[:id], "sequence")
            attachment file_name(sequence.name)
            content_type "application/json"
            Work::SequenceOut.new(sequence, moment).file
          end

          app.get "/api/sequences/starters" do
            json(starters: Work::StarterSequences.all.map { |one| one.slice(:key, :name, :about, :steps) })
          end

          app.post "/api/sequences/file" do
            file = input[:starter] ? Work::StarterSequences.file(input[:starter], moment) : input[:file]
            raise Invalid.new("Say which file, or which starter.", at: "file") unless file

            coming = Work::SequenceIn.new(file, moment)
            answers = input[:answers] or next json(coming.asks)
            json(SequenceJson.new(coming.call(answers), moment).write, 201)
          end
        end
      end
    end
  end
end
