# frozen_string_literal: true

module NimbleLetter
  module Records
    # Keeps named columns as JSON text and hands them out parsed and frozen, so that they change only by assignment.
    module JsonColumn
      def json_column(*names)
        names.each do |name|
          define_method(name) { (text = self[name]) && JSON.parse(text, freeze: true) }
          define_method(:"#{name}=") { |value| self[name] = value.nil? ? nil : JSON.generate(value) }
        end
      end
    end
  end
end
