# frozen_string_literal: true

module NimbleLetter
  module Web
    # What each kind of event is called in a person's history, and why somebody left or a step was passed by.
    module HistoryTable
      WORDS = {
        "sent" => "Had “%<letter>s”",
        "opened" => "Opened “%<letter>s”",
        "clicked" => "Clicked in “%<letter>s”",
        "replied" => "Replied",
        "answered_automatically" => "Answered automatically",
        "bounced" => "The address failed",
        "bounced_softly" => "A letter could not be delivered for now",
        "failed" => "“%<letter>s” could not be sent",
        "refused" => "The address was refused",
        "unsubscribed" => "Asked not to be written to",
        "complained" => "Complained about a letter",
        "joined" => "Joined “%<sequence>s”",
        "left" => "Left “%<sequence>s”",
        "skipped" => "“%<letter>s” was passed by",
        "went_without" => "Went on without “%<letter>s”",
        "lane_taken" => "Went on in “%<sequence>s”",
        "step_done" => "A step of “%<sequence>s” was done",
        "task_done" => "Done: %<label>s",
        "nodded" => "“%<letter>s” may go",
        "came_back" => "Is in “%<sequence>s” again",
        "member_moved" => "Moved to another step of “%<sequence>s”",
        "plan_moved" => "The plan of “%<sequence>s” was changed",
        "member_paused" => "Paused in “%<sequence>s”",
        "member_went_on" => "Goes on in “%<sequence>s”",
        "finished" => "Went through “%<sequence>s”",
        "converted" => "Converted: %<label>s",
        "note" => "Note",
        "call" => "Call",
        "merged" => "Merged with another record of the same person",
        "imported" => "Brought in from a file"
      }.freeze
      LEFT = {
        "in_the_bin" => "the record was put in the bin",
        "address_blocked" => "the address is on the do-not-mail list",
        "no_at_address" => "another record with this address said no",
        "same_address" => "another member has this address",
        "do_not_mail" => "asked not to be written to",
        "address_failed" => "the address failed before",
        "no_consent" => "said no to letters",
        "merged" => "merged with another record",
        "replied" => "after a reply",
        "unsubscribed" => "asked for no letters",
        "bounced" => "the address failed",
        "refused" => "the address was refused",
        "converted" => "converted",
        "condition" => "what the sequence leaves on holds",
        "end_date" => "the sequence has ended for everybody",
        "handed_over" => "handed over to another sequence",
        "no_date" => "has not the date a step is about",
        "taken_out" => "taken out by hand",
        "stopped" => "the sequence was stopped",
        "complained" => "after a complaint"
      }.freeze

      BY = {
        "bulk" => "changed together with others",
        "import" => "from a file",
        "undo" => "taken back",
        "merge" => "from a merged record",
        "check" => "found by the daily check"
      }.freeze
      PASSED_BY = {
        "not_for_them" => "not for them",
        "too_late" => "its time was past",
        "no_date" => "they have not the date it stands around",
        "no_time" => "they have not the date it stands around",
        "address_failed" => "the address failed",
        "had_it" => "they had it already",
        "no_deal" => "they have no deal",
        "set_by_hand" => "a colleague has set it",
        "cannot_join" => "they cannot join the other sequence",
        "sequence_not_running" => "the other sequence is not running",
        "circle" => "they go round in a circle",
        "plan_changed" => "the plan was changed"
      }.freeze
      # What a history can be narrowed to.
      ABOUT = {
        "letters" => %w[sent failed opened clicked bounced bounced_softly refused],
        "answers" => %w[replied answered_automatically unsubscribed complained converted],
        "notes" => %w[note call task_done],
        "record" => %w[field_changed merged imported],
        "sequences" => %w[joined left finished skipped went_without status_moved lane_taken step_done came_back member_moved member_paused
          member_went_on plan_moved]
      }.freeze
    end
  end
end
