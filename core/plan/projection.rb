# frozen_string_literal: true

module Vestry
  module Core
    module Plan
      # Plans for one tree compared season by season: how much of the head lives, what it bears,
      # and what the work takes.
      module Projection
        extend Reckoning

        contract "projection", "Plans compared over ten seasons: live canopy, crop, sticks, stubs and hours" do
          list :plans, longest: 50 do
            key :name
            list :work, longest: 500 do
              key :id
              number :share, least: 0, most: 1, help: "of the head, that goes with it"
              integer :season, least: -200, most: 200,
                               help: "in which it is grafted; 0 is the first, below 0 one gone by"
              number :take, least: 0, most: 1, default: 0.9, help: "chance that the stub takes"
              integer :stubs, least: 0, default: 1
              integer :sticks, least: 0, default: 1, help: "on all of its stubs together"
              number :minutes, unit: "minutes", least: 0, default: 0.0
              flag :headed, default: false, help: "its old wood is off already: it was worked before, and lost"
              number :stub_mm, unit: "mm", above: 0, optional: true,
                               help: "thickness where it is cut; without it the rulebook's curve stands for its years"
              number :shoot_mm, unit: "mm", least: 0, default: 0.0, help: "of its first year"
              list :measured, longest: 200, default: [].freeze, help: "what was counted of it", &Regrowth::READINGS
            end
            list :lifts, longest: 500, default: [].freeze do
              number :share, least: 0, most: 1
              integer :season, least: -200, most: 200, default: 0
            end
          end
          integer :seasons, above: 0, most: 60, default: 10
          flag :nut, default: false
          list :measured, default: [].freeze do
            key :plan, optional: true, help: "the plan it was measured under; none means all"
            integer :season, least: 0
            number :canopy, least: 0, help: "share of the head that stood before the work"
            number :crop, least: 0, optional: true
          end
        end

        # A limb counts with its whole share until the season it is cut, unless it is headed already. From then on its
        # share comes back as Regrowth says (by age alone where its thickness is not said), times the chance that its
        # stub takes, and what has come back bears by age. Shares are of the head, and of its full crop, as it stood
        # before the work.
        # What was measured in a season stands in place of what is reckoned for it.
        #
        # @return [Hash] +plans+, each with +name+, +seasons+ (+season+, +canopy+, +old+, +grown+,
        #   +crop+, +removed+, +sticks+, +stubs+, +hours+, +measured+) and +totals+ (+crop+ and
        #   +forgone+ in full crops, +sticks+, +stubs+, +hours+, +comes_to+, +lowest_canopy+, +canopy_back+
        #   and +crop_back+: the first season, from the last work on, with nine tenths of the head or
        #   crop that the plan comes to in the end, or nil); and +assumed+
        # @raise [BadInput] when a plan takes more than the whole head, or two share a name
        def self.call(plans:, seasons: 10, nut: false, measured: [], rulebook: Rulebook.shipped)
          raise BadInput.new("plans", "at least one plan") if plans.empty?
          if plans.map { |each| each[:name] }.uniq.size < plans.size
            raise BadInput.new("plans", "plans of different names")
          end

          assumed = { regrow: rulebook.value("reckoning.projection.regrow"), rulebook: rulebook,
                      bearing: rulebook.value("reckoning.projection.bearing"),
                      later: nut ? rulebook.value("reckoning.projection.nut_later") : 0,
                      back_at: rulebook.value("reckoning.projection.back_at") }
          { plans: plans.each_with_index.map { |plan, place| run(plan, place, seasons, measured, assumed) },
            assumed: assumed.except(:rulebook) }
        end

        def self.run(plan, place, seasons, measured, assumed)
          taken = (plan[:work] + plan[:lifts]).sum { |each| each[:share] }
          unless Near.at_most?(taken, 1)
            raise BadInput.new("plans[#{place}].work", "shares that come to no more than the whole head")
          end

          rows = (0...seasons).map do |season|
            row(plan, season, assumed, measured.find { |each| each[:season] == season &&
                                                       [nil, plan[:name]].include?(each[:plan]) })
          end
          { name: plan[:name], seasons: rows, totals: totals(rows, plan, assumed[:back_at]) }
        end

        def self.row(plan, season, assumed, seen)
          done, lifted = plan.values_at(:work, :lifts).map { |all| all.select { |each| each[:season] <= season } }
          cut = plan[:work].select { |each| each[:headed] || each[:season] <= season }
          old = [1 - share(cut) - share(lifted), 0.0].max
          grown, crop = grown(done, season, assumed)
          { season: season, canopy: seen ? seen[:canopy] : old + grown, old: old, grown: grown,
            crop: seen&.dig(:crop) || old + crop, **taken(done, lifted, season), measured: !seen.nil? }
        end

        # What comes off in a season itself, and what that takes.
        def self.taken(done, lifted, season)
          now, lifts = [done, lifted].map { |all| all.select { |each| each[:season] == season } }
          sticks, stubs, minutes = %i[sticks stubs minutes].map { |what| now.sum { |each| each[what] } }
          { removed: share(now.reject { |each| each[:headed] }) + share(lifts), sticks: sticks, stubs: stubs,
            hours: WorkTime.hours(minutes) }
        end

        def self.share(all) = all.sum(0.0) { |each| each[:share] }

        # What has grown back of what was worked, and what it bears.
        def self.grown(done, season, assumed)
          grown = done.map do |each|
            age = season - each[:season]
            [age, each[:share] * each[:take] * back(each, age, assumed)]
          end
          [grown.sum(0.0) { |_, canopy| canopy },
           grown.sum { |age, canopy| canopy * at(assumed[:bearing], age - assumed[:later]) }]
        end

        # The share of itself that is back.
        def self.back(limb, age, assumed)
          return at(assumed[:regrow], age) unless limb[:stub_mm]

          Regrowth.at(age, { shoot_mm: 0.0, **limb.slice(:stub_mm, :shoot_mm, :measured) },
                      rulebook: assumed[:rulebook])[:share]
        end

        # By age in seasons; the last figure holds from then on, and nothing is borne before the first.
        def self.at(figures, age) = age.negative? ? 0.0 : figures[[age, figures.size - 1].min].to_f

        def self.totals(rows, plan, back_at)
          comes_to = comes_to(**plan.slice(:work, :lifts))
          back = ->(what) { first_with(rows, plan[:work], what, back_at * comes_to) }
          sums = %i[crop sticks stubs hours].to_h { |what| [what, rows.sum { |row| row[what] }] }
          { **sums.slice(:crop), forgone: rows.sum { |row| 1 - row[:crop] }, **sums.except(:crop),
            comes_to: comes_to, lowest_canopy: rows.map { |row| row[:canopy] }.min,
            canopy_back: back[:canopy], crop_back: back[:crop] }
        end

        # The share of the head that stands when all that takes has grown back.
        def self.comes_to(work:, lifts:)
          1 - share(work) - share(lifts) + work.sum { |each| each[:share] * each[:take] }
        end

        # The first season, from the last work on, with as much of the head or the crop.
        def self.first_with(rows, work, what, wanted)
          last = work.map { |each| each[:season] }.max || 0
          rows.find { |row| row[:season] >= last && Near.at_least?(row[what], wanted) }&.fetch(:season)
        end
        private_class_method :run, :row, :taken, :share, :grown, :totals, :comes_to, :back, :first_with
      end
    end
  end
end
