# frozen_string_literal: true

module NimbleLetter
  module Work
    # Makes a letter and changes it. Whatever was typed is kept: each change is part of a version, and text that lost a
    # collision becomes a version too.
    class WriteLetter
      NAMES = {name: 160, category: 60}.freeze
      # What goes with a letter that nobody wrote in.
      OWN_ROWS = %i[letter_versions letter_favourites letter_presences attachments].freeze

      def initialize(moment)
        @moment = moment
      end

      # @param input [Hash{Symbol=>Object}] any of Records::Letter::CONTENT
      # @return [Records::Letter]
      def make(input = {})
        empty = Records::Letter::PARTS.to_h { |part| [part, Core::Letters::Document::EMPTY] }
        values = {manner: "plain", language: "en", about: "anybody", **empty, **taken(input)}
        values = {named: values.key?(:name), name: NameFromSubject.of(values[:subject], @moment), **values}
        Records.db.transaction do
          letter = Records::Letter.create(values.merge(account_id: @moment.account&.id, created_at: @moment.now, updated_at: @moment.now))
          Versions.new(letter, @moment).keep("typed")
          letter
        end
      end

      # @param input [Hash{Symbol=>Object}] what changes, and version
      # @return [Records::Letter]
      # @raise [Invalid, Conflict]
      def change(letter, input)
        changes = {**taken(input), **name(letter, input)}
        changes[:set_aside] = input[:set_aside].uniq.first(50) if input[:set_aside]
        changes[:archived_at] = (input[:archived] ? @moment.now : nil) if input.key?(:archived)
        Records.db.transaction do
          before, was = letter.version, letter.content
          letter.change!(changes, version: input[:version], now: @moment.now)
          keep(letter, was) if letter.version != before && (changes.keys & Records::Letter::CONTENT).any?
          NameFromSubject.follow(letter) if changes.key?(:name)
        end
        letter
      end

      # @return [Records::Letter]
      def copy(letter, name: nil)
        Records.db.transaction do
          made = make(letter.content.merge(name: (name || "#{letter.name}, copy")[0, 160]))
          letter.attachments.each { |file| Records::Attachment.create(file.values.except(:id).merge(letter_id: made.id)) }
          made
        end
      end

      # Takes away a letter in which nobody has written anything, and which nothing is about.
      # @raise [Invalid] of any other
      def discard(letter)
        Records.db.transaction do
          letter.lock!
          unless untouched?(letter)
            raise Invalid.new("Somebody wrote this letter: it stays.", code: :written, hint: "Put it into the archive instead.")
          end

          OWN_ROWS.each { |table| Records.db[table].where(letter_id: letter.id).delete }
          letter.delete
        end
      end

      # @param version [Records::LetterVersion] gone back to
      # @param number [Integer] the letter's own version, as it was read
      def restore(letter, version, number:)
        content = taken(version.content.transform_keys(&:to_sym).except(:name))
        content = {**content, **name(letter, content)}
        Records.db.transaction do
          letter.change!(content, version: number, now: @moment.now)
          Versions.new(letter, @moment).keep("restored", went_back_to: version.number)
          NameFromSubject.follow(letter) if content.key?(:name)
        end
        letter
      end

      # Keeps a text that was typed while somebody else changed the letter; theirs stays the letter.
      # @return [Records::LetterVersion]
      def set_aside(letter, input) =
        Records.db.transaction { Versions.new(letter, @moment).keep("set_aside", letter.content.merge(taken(input))) }

      private

      def untouched?(letter)
        empty = Records::Letter::PARTS.all? { |part| letter.document(part).empty? } && !letter.named
        empty && letter.attachments.empty? && Records::Step.where(letter_id: letter.id).empty? &&
          Records::TestLetter.where(letter_id: letter.id).empty?
      end

      # @return [Hash{Symbol=>Object}] the name it goes by from now on, where that is another
      def name(letter, input)
        return {named: true} if input.key?(:name)
        return {} if letter.named || !input[:subject]

        {name: NameFromSubject.of(input[:subject], @moment)}
      end

      # @return [Hash{Symbol=>Object}] checked
      def taken(input)
        parts = Records::Letter::PARTS.filter_map { |part| [part, part(part, input[part])] if input[part] }.to_h
        NAMES.each { |name, most| parts[name] = Core::Letters::Values.clean(input[name])&.slice(0, most) if input.key?(name) }
        raise Invalid.new("A letter needs a name.", at: "name") if parts.key?(:name) && parts[:name].nil?

        {
          manner: Records::Letter::MANNERS,
          about: Records::Letter::ABOUT,
          language: Core::Letters::Locale::LANGUAGES.keys
        }.each do |name, known|
          next unless input[name]
          unless known.include?(input[name])
            raise Invalid.new("#{name.to_s.capitalize} is one of #{known.first(8).join(", ")}.", at: name.to_s)
          end

          parts[name] = input[name]
        end
        parts
      end

      def part(name, json)
        document = Core::Letters::Document.parse!(json, at: name.to_s, catalogue: @moment.catalogue, line: name != :body)
        there!(document)
        document.to_h
      end

      def there!(document)
        lost = document.picture_ids - Records::Picture.where(id: document.picture_ids).select_map(:id)
        raise Invalid.new("A picture in this letter is not in the library any more.", code: :picture_gone, at: "body") if lost.any?

        lost = document.passage_ids - Records::Passage.where(id: document.passage_ids).select_map(:id)
        raise Invalid.new("A passage in this letter is not there any more.", code: :passage_gone, at: "body") if lost.any?
      end

      # @param was [Hash{Symbol=>Object}] content before
      def keep(letter, was)
        versions = Versions.new(letter, @moment)
        versions.begin_with(was)
        versions.keep("typed")
      end
    end
  end
end
