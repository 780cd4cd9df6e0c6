# frozen_string_literal: true

require "rack/test"

# What is measured while shoots still grow is no count of the season.
RSpec.describe "A count before growth has stopped" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }
  let(:here) { orchard }
  let(:made) { graft(limb(tree(here)), grafted_on: Date.new(2025, 4, 20)) }
  let(:autumn) { Date.new(2026, 9, 20) }

  def count(day, **values)
    Vestry::Deeds::RecordTally.call(made, { tallied_on: day, alive: true, growth_mm: 30, above_mm: 9,
                                            open_a_mm: 44, open_b_mm: 44, **values },
                                    by: "Orla Finch", today: day)
  end

  def asked(day)
    row = Vestry::Records::CountRow.new(here, made.limb.tree.row, here.season_to_count(day))
    due = Vestry::Records::Agenda.new(here, day).due.select { |item| item.task[:rule] == "tally" }
    [row.left.map(&:id), due.map { |item| item.of.id },
     Vestry::Records::CountRow.waits?(made, here.season_to_count(day)),
     Vestry::Records::CountRow.left_trees(here, day), Vestry::Records::CountRow.all(here, day).map { |r| r[:counted] }]
  end

  it "is asked for again in autumn, by the agenda and by the count alike" do
    count(Date.new(2026, 5, 18))
    expect(asked(autumn)).to eq [[made.id], [made.id], true, [made.limb.tree_id], [0]]
    again = count(autumn, growth_mm: 640)
    expect(made.tallies_dataset.select_map(:id)).to eq [again.id]
    expect(asked(autumn)).to eq [[], [], false, [], [1]]
  end

  it "is nothing that figures are learned from" do
    count(Date.new(2026, 5, 18))
    after = Date.new(2027, 2, 1)
    regrown = -> { Vestry::Records::CoreInputs.regrowth(Vestry::Records::Graft[made.id])[:measured] }
    expect(regrown.call).to eq []
    expect(Vestry::Records::OwnFigures.new(here, after).all).to eq({})
    Vestry::Records::Tally.where(graft_id: made.id).update(tallied_on: autumn)
    expect(regrown.call).to match [{ season: 1, mm: 9.0 }]
    expect(Vestry::Records::OwnFigures.new(here, after).all).not_to be_empty
  end

  it "says so in its form, which is empty again in autumn" do
    enter person("Orla Finch", steward: here)
    page = lambda do |day|
      allow(Vestry::Outside::Clock).to receive(:today).and_return(day)
      get "/o/#{here.slug}/tally/grafts/#{made.id}"
      form = Nokogiri::HTML5(last_response.body).at_css("form[data-offline^='Count']")
      [form.at_css("[name=growth]")["value"].to_s, form.at_css("[name=tallied_on]")["value"],
       form.text.split.join(" ").include?("Growth goes on until about 15 September")]
    end
    expect(page[Date.new(2026, 5, 18)]).to eq ["", "2026-05-18", true]
    count(Date.new(2026, 5, 18))
    expect(page[Date.new(2026, 5, 20)]).to eq ["30 mm", "2026-05-18", true]
    expect(page[autumn]).to eq ["", "2026-09-20", false]
    count(autumn, growth_mm: 640)
    expect(page[Date.new(2026, 9, 25)]).to eq ["640 mm", "2026-09-20", false]
  end
end
