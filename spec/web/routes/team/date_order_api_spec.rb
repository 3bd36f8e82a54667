# frozen_string_literal: true

RSpec.describe "PUT /api/date-order" do
  def order = call_api(:get, "/api/session").dig("firm", "date_order")

  it "is said once for the whole firm, and noted" do
    sign_in
    expect(order).to eq("dmy")
    2.times { expect(call_api(:put, "/api/date-order", {date_order: "mdy"})).to eq("date_order" => "mdy") }
    expect([order, log_lines("setting_changed").map { |line| line[:about] }]).to eq(["mdy", ["days are written as mdy"]])
  end

  it "keeps what it was for an order that is none" do
    sign_in
    call_api(:put, "/api/date-order", {date_order: "ydm"}, status: 400)
    expect(order).to eq("dmy")
  end
end
