# frozen_string_literal: true

RSpec.describe Vestry::Records::StrippedTrunks do
  let(:here) { orchard }
  let(:today) { World::TODAY }

  def wound(number, **facts)
    Vestry::Records::Wound.create({ orchard_id: here.id, tree_id: tree(here, number: number).id, found_on: today - 3,
                                    girth_mm: 500, cause: "teeth" }.merge(facts))
  end

  def told(on = today) = described_class.new(Vestry::Records::Orchard[here.id], on).all
  def facts(report) = [report.wound.id, report.share, report.triage, report.mending]

  it "says of many, stored or not, what each says by itself, the most pressing first" do
    nearly, whole = wound(1, bark_left: 0.9), wound(2, bark_left: 0.0)
    alone = [whole, nearly].map { |each| facts(Vestry::Records::WoundReport.new(each.reload, today)) }
    expect([told, told].map { |all| all.map { |each| facts(each) } }).to eq [alone, alone]
    expect(alone.map { |_, share, *| share.round(2) }).to eq [1.0, 0.1]
  end

  it "takes a trunk that nobody measured or judged to be bare all round" do
    expect(facts(Vestry::Records::WoundReport.new(wound(1, bark_left: nil), today))[1]).to eq 1.0
  end

  it "is worked out anew once one is covered, seen or found" do
    first = wound(1, bark_left: 0.1)
    open = -> { told.first.mending[:tasks].select { |task| %w[open late].include?(task[:status]) }
      .map { |task| task[:rule] } }
    expect([open.call, told.size]).to match [include("cover"), 1]
    first.update(covered_on: today)
    expect(open.call).not_to include "cover"
    wound(2, bark_left: 0.0)
    expect(told.map { |each| each.share.round(1) }).to eq [1.0, 0.9]
  end

  it "is worked out anew once its tree goes by another school, whose wraps need no slitting" do
    bridged = wound(1, bark_left: 0.1, found_on: today - 60, course: "bridge", repaired_on: today - 40)
    Vestry::DB[:bridge_scions].insert(orchard_id: here.id, wound_id: bridged.id, number: 1, bearing_deg: 0,
                                      set_on: today - 40)
    slit = -> { told.first.mending[:tasks].map { |task| task[:rule] }.include?("loosen") }
    expect(slit.call).to be true
    Vestry::Records::Plan.create(orchard_id: here.id, tree_id: bridged.tree_id, school: "film-wrap")
    expect(slit.call).to be false
  end

  it "has a bare trunk mended before its head is planned, says the plan and the headline, until it holds" do
    place = demo
    wounds = Vestry::Records::Wound.where(orchard_id: place.id).order(:id).all
    said = lambda do |day|
      wounds.map do |wound|
        standing = Vestry::Records::Tree[wound.tree_id]
        faults = Vestry::Records::TreePlan.new(standing, day).faults.map { |each| each[:code] }
        words = Vestry::Web::Headline.new(place, day).tree(standing)
        [faults.include?("plan_trunk_bare"), words.include?("mend it first")]
      end
    end
    expect(said[Date.new(2026, 3, 1)].uniq).to eq [[true, true]]
    expect(said[World::TODAY].uniq).to eq [[false, false]]
    expect(said[Date.new(2026, 1, 10)].uniq).to eq [[false, false]]
  end

  it "has places to be set on a trunk that is bridged, and on no other" do
    bare = wound(9, bark_left: nil, course: "bridge")
    [0, 90, 180, 270].each do |bearing|
      Vestry::DB[:wound_margins].insert(orchard_id: here.id, wound_id: bare.id, bearing_deg: bearing, low_mm: 100,
                                        high_mm: 200)
    end
    told_of = lambda do |course|
      bare.update(course: course)
      Vestry::Records::WoundReport.new(Vestry::Records::Wound[bare.id], today).places
    end
    Vestry::Records::BridgeScion.create(orchard_id: here.id, wound_id: bare.id, number: 1, bearing_deg: 30)
    expect(%w[bridge dress inarch cut-back stump-graft].to_h { |course| [course, told_of[course].size] })
      .to eq("bridge" => 1, "dress" => 0, "inarch" => 0, "cut-back" => 0, "stump-graft" => 0)
    Vestry::Records::BridgeScion.create(orchard_id: here.id, wound_id: bare.id, number: 2, bearing_deg: 90,
                                        set_on: today)
    expect(told_of["inarch"].map { |each| each.values_at(:number, :low_mm, :high_mm, :stock) })
      .to eq [[2, 0.0, 200.0, true]]
  end

  it "numbers the places of scions from one on, before any is set" do
    here.update(units: "metric")
    bare = wound(9, bark_left: nil)
    [0, 90, 180, 270].each do |bearing|
      Vestry::DB[:wound_margins].insert(orchard_id: here.id, wound_id: bare.id, bearing_deg: bearing, low_mm: 100,
                                        high_mm: 200)
    end
    places = Vestry::Records::WoundReport.new(bare.reload, today).places
    expect(places.map { |each| each[:number] }).to eq (1..places.size).to_a
    expect(places.size).to be > 3
  end
end
