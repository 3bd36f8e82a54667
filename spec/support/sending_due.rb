# frozen_string_literal: true

# A letter that is due, and answers of mail servers to it.
RSpec.shared_context "with a letter that is due" do
  let(:opened) { Time.utc(2026, 5, 12, 10, 20) }
  let(:accepted) { Post::Outcomes::Accepted.new("250 ok") }
  let(:person) { make_person }
  let!(:sequence) { start(make_sequence(people: [person]), at: now - 3600) }

  def deliveries = Records::Delivery.where(sequence_id: sequence.id).order(:id).all

  def send_with(*answers, at: opened)
    ToldTransport.new(*answers).tap { |transport| worker(transport: transport).dispatch_due(at) }
  end

  before { Records::Delivery.where(sequence_id: sequence.id, state: "due").update(due_at: opened - 60) }
end
