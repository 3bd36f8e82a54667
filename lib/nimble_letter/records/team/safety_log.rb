# frozen_string_literal: true

require "json"

module NimbleLetter
  module Records
    # What matters to safety, in a database of its own in which whoever runs the application can only add: not by mistake
    # and not by an injected statement is a line changed or taken away. Times are the database's own.
    module SafetyLog
      SHOWN = 100

      class << self
        # @param database [String]
        # @return [String] the database its log is in
        def database(database) = "log_of_#{database}"

        def add(**values) = dataset.insert(**values, data: values[:data] && JSON.generate(values[:data]))

        # @param before [Integer, nil] the id of the last line already seen
        # @param kind [String, nil]
        # @return [Array<Hash>] newest first
        def page(before: nil, kind: nil)
          lines = dataset.order(Sequel.desc(:id)).limit(SHOWN)
          lines = lines.where(Sequel[:id] < before) if before
          lines = lines.where(kind: kind) if kind
          lines.all.map { |line| line.merge(data: line[:data] && JSON.parse(line[:data])) }
        end

        def dataset = Records.db[Sequel.qualify(database(Records.db.opts.fetch(:database)), :lines)]
      end
    end
  end
end
