# frozen_string_literal: true

module NimbleLetter
  module Web
    # What Settings shows of records: own fields, stages of deals, the do-not-mail list.
    module FieldJson
      def self.write(field, used = Work::WhereUsed.new)
        there = if field.made
          (field.table == :people) ? Records::Person.kept : Records.db[field.table]
        end
        {
          id: field.id,
          key: field.to_field.key,
          subject: field.subject,
          label: field.label,
          type: field.type,
          choices: (field.choices || {}).values,
          retired: field.retired,
          version: field.version,
          made: field.made,
          filled: there ? there.exclude(field.column => nil).count : 0,
          used_in: used.field(field.to_field)
        }
      end

      def self.stages
        deals =
          Records::Deal.live.group(:stage).select_hash(
            :stage,
            [Sequel.function(:count).*.as(:count), Sequel.function(:sum, :value_pence).as(:sum)]
          )
        Records::FieldCatalogue.deal_stages.map do |stage|
          {
            key: stage["key"],
            words: stage["words"],
            outcome: stage["outcome"],
            deals: deals.dig(stage["key"], 0) || 0,
            value_pence: (deals.dig(stage["key"], 1) || 0).to_i
          }
        end
      end

      def self.blocked
        entries =
          Records::BlockedAddress.order(Sequel.desc(:id)).all.map do |block|
            {
              id: block.id,
              kind: block.kind,
              value: block.value,
              reason: block.reason,
              by: block.account&.name,
              at: block.created_at,
              people: block.people.where(deleted_at: nil).count
            }
          end
        {blocked: entries, plus_tags: Records::Firm.current.plus_tags}
      end
    end
  end
end
