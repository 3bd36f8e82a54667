# frozen_string_literal: true

module NimbleLetter
  module Core
    module Letters
      # A letter brought together with the facts of one person. The result is still a tree, so that HTML, text and
      # screen are written from the same merged words.
      class Merge
        # kind: :text, :merged (a value), :fallback, :gap (nothing to put there) or :break
        Run = Struct.new(:kind, :text, :field, :marks, :href)
        # kind: :paragraph, :heading, :list (items), :personal (a line of one's own)
        Block = Struct.new(:kind, :runs, :items, :ordered)
        # subject, preview: Array<Run>; blocks: Array<Block>; gaps: field keys, each once, in reading order
        Merged = Struct.new(:subject, :preview, :blocks, :gaps)

        NO_MARKS = [].freeze

        # @param subject [Document] a single line
        # @param preview [Document] a single line
        # @param body [Document]
        def initialize(subject:, preview:, body:)
          @subject, @preview, @body = subject, preview, body
        end

        # @param facts [Hash{String=>String,Date,nil}] values by field key
        # @param filled [Hash{String=>String}] values for this letter only, by field key
        # @param personal_line [String, nil] goes in after the first block
        # @return [Merged]
        def call(facts, personal_line: nil, filled: {})
          @facts, @filled, @gaps = facts, filled, []
          subject, preview = line(@subject), line(@preview)
          blocks = @body.blocks.map { |block| block(block) }
          unless personal_line.to_s.strip.empty?
            blocks.insert([1, blocks.size].min, Block.new(:personal, plain_lines(personal_line.strip)))
          end
          Merged.new(subject, preview, blocks, @gaps.uniq)
        end

        private

        def line(document) = document.blocks.flat_map { |block| runs(block) }.reject { |run| run.kind == :break }

        def block(node)
          case node["type"]
          when "heading" then Block.new(:heading, runs(node))
          when "bulletList", "orderedList"
            Block.new(:list, [], node["content"].map { |item| item_runs(item) }, node["type"] == "orderedList")
          else Block.new(:paragraph, runs(node))
          end
        end

        # A list item may hold several paragraphs; they are read as lines of one item.
        def item_runs(item)
          (item["content"] || []).map { |part| runs(part) }.inject { |all, more| all + [Run.new(:break, "\n", nil, NO_MARKS)] + more } || []
        end

        def runs(node)
          (node["content"] || []).flat_map do |child|
            case child["type"]
            when "text" then [text_run(child)]
            when "hardBreak" then [Run.new(:break, "\n", nil, NO_MARKS)]
            when "mergeField" then [field_run(child["attrs"])]
            else runs(child)
            end
          end
        end

        def text_run(node)
          marks = node["marks"] || NO_MARKS
          href = marks.find { |mark| mark["type"] == "link" }&.dig("attrs", "href")
          Run.new(:text, node["text"], nil, marks.map { |mark| mark["type"] } - ["link"], href)
        end

        def field_run(attrs)
          key = attrs["field"]
          value = Values.say(@filled[key]) || Values.say(@facts[key])
          return Run.new(:merged, value, key, NO_MARKS) if value
          return Run.new(:fallback, attrs["fallback"], key, NO_MARKS) if attrs["fallback"]

          @gaps << key
          Run.new(:gap, "", key, NO_MARKS)
        end

        def plain_lines(text)
          text.split(/\r?\n/).flat_map { |words| [Run.new(:break, "\n", nil, NO_MARKS), Run.new(:text, words, nil, NO_MARKS)] }.drop(1)
        end
      end
    end
  end
end
