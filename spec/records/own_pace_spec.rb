# frozen_string_literal: true

RSpec.describe Vestry::Records::OwnPace do
  it "moves the minutes of what waits, by what was timed here and nowhere else" do
    here = demo
    row = here.planned(:waiting, 2026).rows.find(&:complete?)
    minutes = -> { Vestry::Records::StubAdvice.new(row.limb, planned: row).minutes }
    before = minutes.call
    made = here.grafts.first(6)
    made.each do |graft|
      graft.update(minutes: 2 * described_class.new(here).then do
        height = graft.cut_mm && graft.limb.height_at(graft.cut_mm.to_f)
        Vestry::Core::Plan::WorkTime.minutes(graft.technique, graft.sticks, height, here.rulebook)
      end)
    end
    # (8 + 6 x 2) / 14
    expect(minutes.call / before).to be_within(1e-9).of(20 / 14.0)
    expect(described_class.new(orchard(name: "Other Hill")).of_here).to eq(times: 1.0, stubs: 0)
  end
end
