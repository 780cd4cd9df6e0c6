# frozen_string_literal: true

RSpec.describe "window, graft-day and crew", :core do
  describe "window" do
    def window(**more)
      reckon("window", { species: "apple", opens_on: "2026-04-14", first_frost_on: "2026-10-12" }.merge(more))
    end

    it "reckons the worked example" do
      expect(window(heat_on: "2026-06-20", wood_ends_on: "2026-06-05"))
        .to include(closes_on: Date.new(2026, 6, 5), decided_by: "wood_ends_on", open: true)
    end

    it "is decided by hardening when nothing else is known, and is shut when it closes before it opens" do
      expect(window).to include(closes_on: Date.new(2026, 7, 6), decided_by: "hardening")
      expect(window(wood_ends_on: "2026-04-14")).to include(open: true)
      expect(window(wood_ends_on: "2026-04-13")).to include(open: false)
    end
  end

  describe "graft-day" do
    def days(*changes)
      changes.each_with_index.map do |change, i|
        { date: (Date.new(2026, 4, 20) + i).iso8601, min_c: 8, max_c: 18, rain_mm: 0, gust_ms: 4 }.merge(change)
      end
    end
    def judge(list, **more)
      reckon("graft-day", { species: "apple", needs_slip: true, slip: { reached_on: "2026-04-18" },
                            days: list }.merge(more))[:days]
    end
    def verdicts(...) = judge(...).map { |day| day[:verdict] }

    it "calls a dry, still, mild day after slip good" do
      expect(verdicts(days({}, {}))).to eq %w[good good]
    end

    it "minds rain and, on a ladder only, wind" do
      expect(verdicts(days({ rain_mm: 2 }, { rain_mm: 2.1 }, { rain_mm: 9 }))).to eq %w[good marginal wait]
      expect(verdicts(days({ gust_ms: 12 }))).to eq %w[good]
      expect(verdicts(days({ gust_ms: 12 }, { gust_ms: 16 }), ladder: true)).to eq %w[marginal wait]
    end

    it "minds frost in the week after, and cold that stops callus, for methods at slip alone" do
      cold = days({}, {}, { min_c: -1 })
      expect(judge(cold).first[:reasons].map { |reason| reason[:code] }).to eq ["day_frost"]
      expect(judge(cold, needs_slip: false).map { |day| day[:verdict] }).to eq %w[good good good]
      expect(judge(days({ min_c: 3, max_c: 8 })).first[:reasons].first[:code]).to eq "day_callus"
    end

    it "minds cold that stops callus for what knits in warmth alone, whatever the method" do
      cold = days({ min_c: 3, max_c: 12 })
      codes = lambda do |species|
        judge(cold, species: species, needs_slip: false).flat_map { |day| day[:reasons].map { |each| each[:code] } }
      end
      expect(%w[walnut persimmon apple fig].map(&codes)).to eq [%w[day_callus], %w[day_callus], [], []]
    end

    it "waits outside the days between which such a method makes sense, and not on the first and last of them" do
      four = days({}, {}, {}, {})
      between = { opens_on: "2026-04-21", closes_on: "2026-04-22" }
      told = judge(four, needs_slip: false, season: between)
      expect(told.map { |day| day[:verdict] }).to eq %w[wait good good wait]
      expect(told.flat_map { |day| day[:reasons] }).to eq [{ code: "day_too_early", on: Date.new(2026, 4, 21) },
                                                           { code: "day_too_late", on: Date.new(2026, 4, 22) }]
      expect(verdicts(four, season: { closes_on: "2026-04-22" })).to eq %w[good good good wait]
    end

    it "waits until bark is as likely as not to slip" do
      slip = { p10: "2026-04-20", p50: "2026-04-24", p90: "2026-04-28" }
      answer = judge(days(*Array.new(10) { {} }), slip: slip)
      expect(answer.map { |day| day[:verdict] }).to eq %w[wait wait wait wait marginal marginal marginal marginal good
                                                          good]
      expect(answer.map { |day| day[:slip] }).to eq(answer.map { |day| day[:slip] }.sort)
      expect(answer[0][:slip]).to be_within(1e-9).of(0.1)
      expect(judge(days({}), slip: nil).first[:verdict]).to eq "wait"
    end
  end

  describe "crew" do
    def stub(id, closes, minutes: 60, opens: "2026-04-20", **more)
      { id: id, method: "rind", opens_on: opens, closes_on: closes, minutes: minutes, **more }
    end
    def day(date, hours: 2, grafters: 1, verdict: "good")
      { date: date, hours: hours, grafters: grafters, verdict: verdict }
    end
    def crew(stubs, days, **more) = reckon("crew", stubs: stubs, days: days, **more)

    it "does the soonest-closing first within the hours there are" do
      answer = crew([stub("a", "2026-05-10"), stub("b", "2026-04-22"), stub("c", "2026-04-30")],
                    [day("2026-04-21"), day("2026-04-23")])
      expect(answer[:days].map { |each| each[:stubs] }).to eq [%w[b c], %w[a]]
      expect(answer[:missed]).to eq []
    end

    it "keeps rows and varieties together among equals" do
      stubs = [stub("a", "2026-05-01", row: "B"), stub("b", "2026-05-01", row: "A"), stub("c", "2026-05-01", row: "B"),
               stub("d", "2026-05-01", row: "A")]
      expect(crew(stubs, [day("2026-04-21"), day("2026-04-22")])[:days].map { |each| each[:stubs] })
        .to eq [%w[b d], %w[a c]]
    end

    it "says what will not fit, and why, and drops nothing" do
      stubs = [stub("a", "2026-04-21"), stub("b", "2026-04-21"), stub("c", "2026-04-21"), stub("shut", "2026-04-10"),
               stub("late", "2026-06-01", opens: "2026-05-20")]
      answer = crew(stubs, [day("2026-04-21")])
      expect(answer[:days].first[:stubs]).to eq %w[a b]
      expect(answer[:missed_reasons].to_h { |each| [each[:id], each[:code]] })
        .to eq("c" => "crew_no_time", "shut" => "crew_never_open")
      expect(answer[:later]).to eq %w[late]
      expect(crew([stub("a", "2026-04-21")], [day("2026-04-21", verdict: "wait")])[:missed_reasons].first[:code])
        .to eq "crew_all_wait"
    end

    it "misses none that has time after the last of its days" do
      stubs = [stub("a", "2026-04-29"), stub("b", "2026-04-30"), stub("c", "2026-04-29", minutes: 200)]
      answer = crew(stubs, [day("2026-04-21", verdict: "wait"), day("2026-04-22", verdict: "wait")])
      expect(answer.values_at(:missed, :later)).to eq [%w[a c], %w[b]]
      # One that is settled to a day that is not planned is missed, whatever time it has.
      answer = crew(stubs, [day("2026-04-22")], fixed: [{ id: "b", date: "2026-04-24" }])
      expect(answer.values_at(:missed, :later)).to eq [%w[c b], []]
      expect(crew([stub("shut", "2026-05-01", opens: "2026-05-02")], [day("2026-04-22")]).values_at(:missed, :later))
        .to eq [%w[shut], []]
      # A week of its own window.
      soon = %w[a b].zip(%w[2026-05-08 2026-05-09]).map { |id, closes| stub(id, closes, opens: "2026-05-02") }
      expect(crew(soon, [day("2026-04-22")]).values_at(:missed, :later)).to eq [%w[a], %w[b]]
      expect(crew(stubs, []).values_at(:missed, :later)).to eq [%w[a c b], []]
    end

    it "reckons again round what is fixed" do
      stubs = [stub("a", "2026-04-30"), stub("b", "2026-04-30"), stub("c", "2026-04-30")]
      answer = crew(stubs, [day("2026-04-21", hours: 1), day("2026-04-22")], fixed: [{ id: "c", date: "2026-04-21" }])
      expect(answer[:days].map { |each| each[:stubs] }).to eq [%w[c], %w[a b]]
    end

    it "serves each stub once and never beyond the hours, whatever is asked" do
      random = Random.new(4)
      40.times do
        stubs = Array.new(20) do |i|
          stub(i, (Date.new(2026, 4, 20) + random.rand(10)).iso8601, minutes: random.rand(10..90),
               opens: (Date.new(2026, 4, 18) + random.rand(6)).iso8601)
        end
        days = Array.new(6) do |i|
          day((Date.new(2026, 4, 20) + i).iso8601, hours: random.rand(0..3), grafters: random.rand(1..2),
              verdict: %w[good marginal wait].sample(random: random))
        end
        answer = crew(stubs, days)
        placed = answer[:days].flat_map { |each| each[:stubs] }
        expect((placed + answer[:missed] + answer[:later]).sort).to eq (0...20).to_a
        answer[:days].each { |each| expect(each[:minutes]).to be <= each[:capacity] + 1e-9 }
        more = crew(stubs, days.map { |each| each.merge(grafters: each[:grafters] + 3) })
        expect(more[:missed].size).to be <= answer[:missed].size
      end
    end
  end
end
