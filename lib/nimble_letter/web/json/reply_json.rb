# frozen_string_literal: true

module NimbleLetter
  module Web
    # Replies as the contract has them.
    module ReplyJson
      COLUMNS = %i[id kind sort version person_id from_address subject text received_at].freeze

      # @param replies [Array<Records::Incoming>]
      def self.rows(replies)
        people = Records::Person.where(id: replies.map(&:person_id).compact.uniq).eager(:company).all.to_h { |person| [person.id, person] }
        deliveries =
          Records::Delivery
            .where(id: replies.map(&:delivery_id).compact.uniq)
            .eager(:sequence, :letter, :step, :member)
            .all
            .to_h { |delivery| [delivery.id, delivery] }
        conversions = conversions(replies)
        replies.map { |reply| row(reply, people[reply.person_id], deliveries[reply.delivery_id], conversions[reply.id]) }
      end

      def self.row(reply, person, delivery, conversion)
        {
          **reply.values.slice(*COLUMNS),
          name: person&.name || reply.from_name || reply.from_address,
          company: person&.company&.name,
          answers: delivery && answers(delivery),
          member: delivery && member(delivery.member),
          conversion: conversion
        }
      end
      private_class_method :row

      def self.answers(delivery)
        {
          sequence_id: delivery.sequence_id,
          sequence: delivery.sequence.name,
          step: delivery.step.position + 1,
          letter: delivery.letter&.name,
          delivery_id: delivery.id
        }
      end
      private_class_method :answers

      def self.member(member)
        {
          state: member.state,
          left_reason: member.left_reason,
          status_words: Work::MemberStatus.of(member.sequence).words(member.status)
        }
      end
      private_class_method :member

      def self.conversions(replies)
        Records::Event.where(kind: "converted", person_id: replies.map(&:person_id).compact.uniq).all.to_h do |event|
          data = event.data || {}
          [data["incoming_id"], {label: data["label"], value_pence: data["value_pence"]}]
        end
      end
      private_class_method :conversions
    end
  end
end
