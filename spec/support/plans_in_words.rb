# frozen_string_literal: true

# One person in a sequence whose plan is laid out in a few words, with a worker that is asked to come round.
RSpec.shared_context "with a plan in a few words" do
  let(:maren) { make_account(name: "Maren Holt") }
  let(:mailbox) { make_mailbox(account_id: maren.id) }
  let(:person) { make_person(owner_id: maren.id, standing: "lead") }
  let(:hello) { make_letter(name: "Hello") }
  let(:warm) { make_letter(name: "Warm") }
  let(:cold) { make_letter(name: "Cold") }
  let(:accepted) { ToldTransport.new(Post::Outcomes::Accepted.new("250 ok")) }
  let(:client) { {"field" => "person.standing", "is" => "one_of", "value" => ["client"]} }
  let(:open_hours) { {"from_minute" => 0, "to_minute" => 1440, "days" => "any", "unit" => "minutes"} }

  def letter(which, **more) = {"kind" => "letter", "letter_id" => which.id, **open_hours, **more.transform_keys(&:to_s)}

  def task(**more) = {"kind" => "task", "words" => "Ring them", **open_hours, **more.transform_keys(&:to_s)}

  def lane(test, *steps, **more) = {"test" => test, "steps" => steps, **more.transform_keys(&:to_s)}

  def fork(*lanes, days: 5) =
    {"kind" => "fork", "lanes" => lanes, "within" => days && {"amount" => days, "unit" => "days", **open_hours.except("unit")}}

  def changing(what, to) = {"kind" => "change", "what" => what, "to" => to, **open_hours}

  def running(*steps, at: now, **more)
    draft = make_sequence(people: [person], letters: [], mailbox: mailbox)
    Work::PlanSequence.change(draft, {version: 1, steps: steps, **more}, moment: moment)
    @sequence = start(draft.refresh, at: at)
  end

  def round(at = now) = worker(transport: accepted).dispatch_due(at)

  def member = Records::Member.first(sequence_id: @sequence.id)

  def went = Records::Delivery.where(sequence_id: @sequence.id, state: "sent").order(:id).map { |one| one.letter.name }

  def due = Records::Delivery.where(sequence_id: @sequence.id, state: "due").map { |one| one.letter.name }

  def sent = Records::Delivery.where(sequence_id: @sequence.id, state: "sent").order(:id).first

  def happen(kind, at: now + 3600, **more) = Work::Happening.call(kind, at: at, person_id: person.id, delivery: sent, **more)

  def events = Records::Event.where(sequence_id: @sequence.id).order(:id).select_map(:kind)
end
