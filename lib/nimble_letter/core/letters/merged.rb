# frozen_string_literal: true

module NimbleLetter
  module Core
    module Letters
      # A letter brought together for one person. Still a tree, so that HTML, text and screens are written from the same words.
      # subject, preview: Array<Run>; blocks: Array<Block>; gaps: field keys, each once, in reading order; sides: the
      # conditions asked, each with what held; line_lost: whether the place of the personal line is gone
      Merged = Struct.new(:subject, :preview, :blocks, :gaps, :sides, :line_lost, :language) do
        # kind: :text, :merged (a value), :fallback, :gap (nothing to put there) or :break
        self::Run = Struct.new(:kind, :text, :field, :marks, :href, :title)
        # kind: :paragraph, :heading, :list, :item, :quote, :divider, :picture, :button, :links, :columns, :column, :personal (a
        # line of one's own), :signature, :footer; attrs: level, ordered, picture_id, alt (runs), href, width
        self::Block = Struct.new(:kind, :runs, :blocks, :attrs)

        # @return [Array<String>] addresses linked to, in reading order, each once
        def links = hrefs(blocks).uniq

        # @yield [String] the key of a field that has nothing
        # @yieldreturn [String] what to write in its place, for eyes of our own
        # @return [Merged] the same letter with its gaps named
        def naming_gaps(&name)
          words = ->(runs) { runs.map { |run| (run.kind == :gap) ? run.dup.tap { |made| made.text = name.call(run.field) } : run } }
          block = lambda do |one|
            attrs = one.attrs[:alt] ? one.attrs.merge(alt: words.call(one.attrs[:alt])) : one.attrs
            self.class::Block.new(one.kind, words.call(one.runs), one.blocks.map(&block), attrs)
          end
          dup.tap { |made| made.subject, made.preview, made.blocks = words.call(subject), words.call(preview), blocks.map(&block) }
        end

        private

        def hrefs(blocks) = blocks.flat_map { |block| [block.attrs[:href], *block.runs.map(&:href), *hrefs(block.blocks)].compact }
      end
    end
  end
end
