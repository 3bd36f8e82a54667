# frozen_string_literal: true

module NimbleLetter
  module Work
    # Ends where somebody is signed in: one of their own sessions, or all but the one they ask from.
    module EndSession
      # @param session [Records::Session]
      # @raise [Forbidden] for somebody else's
      def self.call(session, moment:)
        unless session.account_id == moment.account.id
          raise Forbidden.new("This is where somebody else is signed in.", code: :not_yours)
        end

        session.delete
        moment.note("session_ended", about: session.agent)
      end

      # @param current [Records::Session]
      # @return [Integer] how many ended
      def self.all_but(current, moment:)
        ended = Records::Session.where(account_id: current.account_id).exclude(id: current.id).delete
        moment.note("session_ended", about: "all others, #{ended}") if ended.positive?
        ended
      end
    end
  end
end
