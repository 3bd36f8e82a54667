# frozen_string_literal: true

module NimbleLetter
  module Work
    # Gives an open task to another colleague.
    module GiveTask
      # @return [Records::Task]
      # @raise [Invalid, Conflict]
      def self.call(task, account_id, version:, moment:)
        raise Invalid.new("There is no such colleague.", at: "account_id") unless Records::Account[account_id]
        raise Invalid.new("This task is #{task.state} already.", code: :wrong_state) unless task.state == "open"

        task.change!({account_id: account_id}, version: version, now: moment.now)
      end
    end
  end
end
