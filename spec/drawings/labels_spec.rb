# frozen_string_literal: true

# What drawings say to those who do not see them.
RSpec.describe "The words of drawings" do
  it "give a strip over two years its years, and one of a year none" do
    seen = [Vestry::Drawings::GraftStrip::Event.new(on: Date.new(2026, 5, 30), kind: "due", 
words: "take the fruit off")]
    strip = lambda do |from|
      Vestry::Drawings::GraftStrip.new(from, Date.new(2026, 11, 5), today: Date.new(2026, 5, 18), events: seen).label
    end
    said = "What was done and is due, from"
    expect(strip[Date.new(2025, 7, 22)]).to eq "#{said} 22 Jul 2025 to 5 Nov 2026: 30 May 2026 take the fruit off"
    expect(strip[Date.new(2026, 4, 1)]).to eq "#{said} 1 Apr to 5 Nov: 30 May take the fruit off"
    expect(strip[Date.new(2026, 6, 1)]).to eq "#{said} 1 Jun to 5 Nov: nothing"
  end

  it "say of sticks what is wanted of them" do
    row = lambda do |wanted, have|
      Vestry::Drawings::StickRow.new(wanted: wanted, have: have, name: "Evensong").label
    end
    expect([row[9, 36], row[19, 11], row[6, 6], row[0, 4]])
      .to eq ["Sticks of Evensong: 36, 9 wanted", "Sticks of Evensong: 11 of 19", "Sticks of Evensong: 6 of 6",
              "Sticks of Evensong: 4, none wanted"]
  end

  it "leave no day of the crew's without a word" do
    lane = lambda do |blocks|
      Vestry::Drawings::CrewLane.new(blocks, capacity: 480, longest: 480, title: "Tue 19 May").label
    end
    expect(lane[[]]).to eq "Tue 19 May: nothing"
    expect(lane[[{ name: "A6 A", minutes: 21.6 }]]).to eq "Tue 19 May: A6 A 22 minutes"
  end
end
