# frozen_string_literal: true

module NimbleLetter
  module Records
    # The one catalogue of fields as this firm has it: those every firm has, with its own words for the stages of a
    # deal, and the fields it made.
    module FieldCatalogue
      STAGES = "deal_stages"
      # What tells whether it has changed. Written out, since it is asked before every condition that is read.
      STAMP = <<~SQL.freeze
        SELECT (SELECT GROUP_CONCAT(CONCAT_WS(':', id, version, made) ORDER BY id) FROM custom_fields) AS fields,
          (SELECT value FROM settings WHERE `key` = '#{STAGES}') AS stages
      SQL
      private_constant :STAMP

      class << self
        # Asked anew each time, since a colleague may have made a field a moment ago; only a change costs more than a glance.
        # @return [Core::Fields::Catalogue]
        def current
          stamp = stamp()
          kept = @kept
          return kept.last if kept&.first == stamp

          catalogue = build
          @kept = [stamp, catalogue]
          catalogue
        end

        # @return [Array<Hash>] "key", "words" and "outcome" (open, won, lost), in order
        def deal_stages
          text = Records.db[:settings].where(key: STAGES).get(:value)
          if text
            JSON.parse(text)
          else
            Core::Fields::Catalogue::DEAL_STAGES.map do |key, words|
              {"key" => key, "words" => words, "outcome" => {"signed" => "won", "lost" => "lost"}.fetch(key, "open")}
            end
          end
        end

        # @param outcome [String] "open", "won" or "lost"
        # @return [Array<String>] keys of the stages
        def stages_that_are(outcome) = deal_stages.select { |stage| stage["outcome"] == outcome }.map { |stage| stage["key"] }

        # @return [Core::Conditions::Parser] for this firm's fields
        def parser = Core::Conditions::Parser.new(current)

        private

        def stamp = [Records.db.object_id, Records.db.fetch(STAMP).first]

        def build
          stages = deal_stages.to_h { |stage| [stage["key"], stage["words"]] }
          standard = Core::Fields::Standard.catalogue
          stage = standard["deal.stage"]
          own =
            Core::Fields::Field.new(
              key: stage.key,
              label: stage.label,
              type: :choice,
              table: stage.table,
              column: stage.column,
              choices: stages,
              phrase: stage.phrase,
              noun: stage.noun,
              uses: stage.uses
            )
          standard.with([own, *CustomField.where(made: true).order(:id).map(&:to_field)])
        end
      end
    end
  end
end
