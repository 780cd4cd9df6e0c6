# frozen_string_literal: true

# One limb on one day: whoever is asked says the same.
RSpec.describe "One answer" do
  let(:here) { orchard }
  let(:standing) { tree(here) }
  let!(:made) { graft(limb(standing, "A"), grafted_on: Date.new(2026, 4, 20)) }

  def graft_report(on) = Vestry::Records::GraftReport.new(Vestry::Records::Graft[made.id], on)
  def dead(on)
    Vestry::Records::Visit.create(orchard_id: here.id, graft_id: made.id, seen_on: on, buds: "dead", verdict: "failed")
  end

  # What the answer after a visit, the tasks, the headline and the plan make of a graft found dead on a day.
  def said(on)
    dead(on)
    report = graft_report(on)
    days = here.last_days(on)
    tasks = report.care[:tasks].map { |task| task[:rule] } & %w[regraft regraft-bud]
    headline = Vestry::Web::Headline.new(here, on).limb(Vestry::Records::Limb[made.limb_id])
    { answer: report.answer.first[:code], tasks: tasks, season: Vestry::Deeds::Regraft.season(here, "apple", on),
      now: on <= days.regraft("apple"), bud: on <= days.bud, headline: headline }
  end

  it "graft again, bud or wait: the answer, the agenda, the headline and the plan agree on every day of a season" do
    days = here.last_days(Date.new(2026, 6, 1))
    last, bud = days.regraft("apple"), days.bud
    expect([last, bud]).to match [be_between(Date.new(2026, 5, 25), Date.new(2026, 7, 20)),
                                  be_between(Date.new(2026, 8, 20), Date.new(2026, 10, 1))]
    { last => ["answer_regraft_no_wood", %w[regraft regraft-bud], 2026, "There is time for another graft"],
      last + 1 => ["answer_bud", %w[regraft-bud], 2027, "bud them between"],
      bud => ["answer_bud", %w[regraft-bud], 2027, "bud them between"],
      bud + 1 => ["answer_spring", [], 2027, "plan it again for spring"] }.each do |on, (code, tasks, season, words)|
      Vestry::DB.transaction(rollback: :always, savepoint: true) do
        found = said(on)
        expect([on, found[:answer], found[:tasks], found[:season]]).to eq [on, code, tasks, season]
        expect(found[:headline]).to include words
      end
    end
  end

  it "says what a loss that was recorded without a visit means too" do
    on = Date.new(2026, 8, 20)
    Vestry::Deeds::RecordLoss.call(made, on: on, cause: "blown-out", by: "Orla", today: on)
    expect(graft_report(on).answer.first[:code]).to eq "answer_bud"
  end
end
