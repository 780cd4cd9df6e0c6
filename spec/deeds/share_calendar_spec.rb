# frozen_string_literal: true

RSpec.describe Vestry::Deeds::ShareCalendar do
  let(:elsewhere) { orchard }
  let(:here) { elsewhere && orchard }

  def good(token) = Vestry::Records::CalendarKey.good(token)

  it "gives an address that opens, and ends the one before, of this person in this orchard alone" do
    first, second = person("Orla", steward: here), person("Tam", grafter: here)
    Vestry::Records::Membership.create(orchard_id: elsewhere.id, account_id: second.id, role: "viewer")
    other = [described_class.call(here, first), described_class.call(elsewhere, second)]
    before, now = Array.new(2) { described_class.call(here, second) }
    expect(good(before)).to be_nil
    expect(good(now)).to have_attributes(orchard_id: here.id, account_id: second.id)
    expect(other.map { |token| good(token).nil? }).to eq [false, false]
  end
end
