# frozen_string_literal: true

module NimbleLetter
  module Records
    # Pairs of records that may be one human, strongest reason first. Each pair once; those somebody kept apart are left out.
    module LikelyDoubles
      MOST = 200
      Pair = Struct.new(:first_id, :second_id, :reason)

      # @return [Array<Pair>]
      def self.find(most: MOST)
        apart = Records.db[:not_doubles].select_map(%i[first_id second_id]).to_set
        seen = Set.new
        [*by_address(most), *by_name(most), *by_phone(most)].each_with_object([]) do |pair, found|
          key = [pair.first_id, pair.second_id]
          found << pair if found.size < most && !apart.include?(key) && seen.add?(key)
        end
      end

      # The database brings candidates together; Core::Doubles has the last word on what is the same mailbox.
      def self.by_address(most)
        local = Sequel.function(:substring_index, Sequel.function(:substring_index, :email_fold, "@", 1), "+", 1)
        mailbox = Sequel.function(:concat, Sequel.function(:replace, local, ".", ""), "@", :domain_fold)
        groups =
          kept
            .exclude(email_fold: nil)
            .group(mailbox)
            .having { count.function.* > 1 }
            .limit(most)
            .select_map(Sequel.function(:group_concat, :id))
        rows = kept.where(id: ids(groups)).select_map(%i[id email])
        pairs(rows.group_by { |_, email| Core::Doubles.mailbox(email) }.values.map { |group| group.map(&:first) }, "address")
      end
      private_class_method :by_address

      def self.by_name(most)
        groups =
          kept
            .exclude(first_name_fold: nil)
            .exclude(last_name_fold: nil)
            .exclude(company_id: nil)
            .group(:first_name_fold, :last_name_fold, :company_id)
            .having { count.function.* > 1 }
            .limit(most)
            .select_map(Sequel.function(:group_concat, :id))
        pairs(groups.map { |group| ids([group]) }, "name")
      end
      private_class_method :by_name

      def self.by_phone(most)
        groups =
          kept
            .exclude(phone_end: nil)
            .exclude(last_name_fold: nil)
            .group(:phone_end, :last_name_fold)
            .having { count.function.* > 1 }
            .limit(most)
            .select_map(Sequel.function(:group_concat, :id))
        pairs(groups.map { |group| ids([group]) }, "phone")
      end
      private_class_method :by_phone

      def self.kept = Records.db[:people].where(deleted_at: nil)
      private_class_method :kept

      def self.ids(groups) = groups.flat_map { |text| text.to_s.split(",").map(&:to_i) }.sort
      private_class_method :ids

      # Each with the oldest of the group.
      def self.pairs(groups, reason) =
        groups
          .select { |group| group.size > 1 }
          .flat_map { |group| group.sort.then { |first, *others| others.map { |other| Pair.new(first, other, reason) } } }
      private_class_method :pairs
    end
  end
end
