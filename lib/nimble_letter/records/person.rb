# frozen_string_literal: true

module NimbleLetter
  module Records
    # One record for one human, whatever their standing.
    class Person < Sequel::Model(:people)
      include Versioned

      FOLDED = %i[first_name last_name city country job_title email].freeze
      # RFC 5321 4.5.3.1 bounds the length; the rest only rules out what could never be delivered or would break a header.
      ADDRESS = /\A[^\s<>",;@]{1,64}@[^\s<>",;@]{1,120}\.[^\s<>",;@.]{2,}\z/

      many_to_one :company
      many_to_one :owner, class: "NimbleLetter::Records::Account", key: :owner_id
      many_to_many :tags, join_table: :people_tags, class: "NimbleLetter::Records::Tag"
      one_to_many :deals
      one_to_many :members

      dataset_module do
        # Newest activity first, people never heard from last.
        def newest_first = order(Sequel.desc(Sequel[:people][:last_activity_at]), Sequel.desc(Sequel[:people][:id]))

        # @param cursor [Array(Time or nil, Integer), nil] where the last page ended
        def after_newest(cursor)
          return self unless cursor

          at, id = cursor
          activity = Sequel[:people][:last_activity_at]
          never = Sequel.&({activity => nil}, Sequel[:people][:id] < id)
          return where(never) if at.nil?

          where(Sequel.|(activity < at, Sequel.&({activity => at}, Sequel[:people][:id] < id), {activity => nil}))
        end

        # Quick search over name, company and address; forgives case and accents. Every word must be found.
        def with_words(text)
          Core::Fold.call(text).to_s.split.inject(self) do |found, word|
            found.where(Sequel.function(:locate, word, Sequel[:people][:search_fold]) > 0)
          end
        end
      end

      # @param values [Hash{Symbol=>Object}] columns of one person
      # @param company_name [String, nil]
      # @return [Hash] with the folded twins; bulk inserts need what saving a model does
      def self.with_folds(values, company_name: nil)
        folds = FOLDED.to_h { |name| [:"#{name}_fold", Core::Fold.call(values[name])] }
        words = [values[:first_name], values[:last_name], values[:email], company_name].compact.join(" ")
        values.merge(folds, search_fold: Core::Fold.call(words)&.slice(0, 700))
      end

      def before_save
        set(self.class.with_folds(values.slice(*FOLDED), company_name: company&.name).except(*FOLDED))
        super
      end

      def validate
        super
        errors.add(:email, "This does not look like an address.") if email && !email.match?(ADDRESS)
        errors.add(:last_name, "A record needs a name, a company or an address.") if [first_name, last_name, email, company_id].none?
        errors.add(:time_zone, "There is no time zone of this name.") if time_zone && !Core::Calendar::Zones.known?(time_zone)
      end

      # @return [String] as people say it; falls back to the address or the company
      def name = self.class.name_of(values) || company&.name || "Without a name"

      def self.name_of(values)
        full = [values[:title], values[:first_name], values[:last_name]].compact.join(" ")
        full.empty? ? values[:email] : full
      end
    end
  end
end
