# frozen_string_literal: true

module NimbleLetter
  module Work
    # Letters to begin with, for the situations of a small firm's client work. They stand in starters/letters as Markdown; taking
    # one makes a letter of one's own.
    module StarterLetters
      FOLDER = File.join(ROOT, "starters", "letters")

      # @return [Array<Hash>] key, name, situation, subject, words
      def self.all
        @all ||= Dir[File.join(FOLDER, "*.md")].sort.map do |path|
          text = File.read(path)
          said =
            text[/\A---\n(.*?)\n---\n/m, 1]
              .scan(/^(\w+):\s*(.+)$/)
              .to_h { |key, value| [key, value.strip.delete_prefix('"').delete_suffix('"')] }
          {
            key: File.basename(path, ".md"),
            name: said.fetch("title"),
            situation: said.fetch("situation"),
            subject: said.fetch("subject"),
            words: text.sub(/\A---\n.*?\n---\n/m, "").strip,
            text: text
          }
        end
      end

      # @return [Records::Letter]
      # @raise [NotFound]
      def self.begin_with(key, moment)
        starter = all.find { |one| one[:key] == key } or raise NotFound.new("There is no starter letter #{key.inspect}.")
        content = LetterIn.new(moment).markdown(starter[:text], starter[:name])
        WriteLetter.new(moment).make(content.merge(category: starter[:situation]))
      end
    end
  end
end
