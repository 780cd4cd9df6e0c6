# frozen_string_literal: true

module Vestry
  module Core
    module Tend
      # Why a graft may have failed, ranked by the evidence that is on record, and never more certain
      # than that.
      module Cause
        extend Reckoning

        contract "cause", "Why a graft may have failed, ranked with the evidence" do
          name :species, -> { Rulebook.shipped.species_names }
          date :grafted_on
          date :failed_on
          weather :weather, default: [].freeze, help: "days from the grafting day"
          number :wood_life_left, least: 0, most: 1, optional: true, help: "of its bundle on the day"
          number :wood_warm_hours, unit: "degree-hours", least: 0, optional: true
          name :bark_slip, %w[clean reluctant none], optional: true
          name :cover, -> { Care.choices("cover") }, optional: true
          flag :moved_early, default: false
          flag :had_grown, default: false, help: "it had leaves or shoots before"
          flag :seal_cracked, default: false
          flag :wrap_loose, default: false
          flag :tape_biting, default: false
          flag :pests, default: false
          flag :in_reach, default: false, help: "of what grazes there"
          flag :southern, default: false, help: "south of the equator"
          number :latitude_deg, unit: "degrees", least: -90, most: 90, optional: true, help: "for when shoots push"
          number :altitude_m, unit: "m", optional: true
          integer :mates_took, least: 0, default: 0, help: "other sticks on the same stub"
          integer :mates_failed, least: 0, default: 0
          integer :day_took, least: 0, default: 0, help: "other stubs of the same day"
          integer :day_failed, least: 0, default: 0
        end

        # @return [Hash] +causes+, most likely first, each +cause+, +share+ (of all points, those for what
        #   nobody saw included) and +evidence+ (signs, each +sign+ with figures); +unknown+ (its share)
        def self.call(rulebook: Rulebook.shipped, **facts)
          signs = Signs.new(facts, rulebook).all
          points = signs.group_by { |sign| rulebook.book("cause").dig("signs", sign[:sign], "cause") }
                        .transform_values { |all| all.sum { |sign| rulebook.value("cause.signs.#{sign[:sign]}") } }
          total = points.values.sum + rulebook.value("cause.unknown")
          ranked = points.sort_by.with_index { |(_, worth), i| [-worth, i] }.map do |cause, worth|
            { cause: cause, share: worth / total, evidence: signs.select { |sign| rulebook.book("cause").dig("signs",
              sign[:sign], "cause") == cause } }
          end
          { causes: ranked, unknown: rulebook.value("cause.unknown") / total }
        end

        # What there is to be seen in the facts.
        class Signs
          def initialize(facts, rulebook)
            @facts = facts
            @rulebook = rulebook
            @climate = Climate.new(facts[:weather], rulebook)
          end

          # Every sign that speaks, in the order of the job. How it was grafted says nothing of one that grew on.
          def all = [*(of_grafting unless grown_on?), *weather, *hands].compact

          private

          # Whether it had grown, and lived through its first summer.
          def grown_on?
            @facts[:had_grown] && @facts[:failed_on] > @facts[:grafted_on] + figure("first_summer")
          end

          def of_grafting = [*wood, cold, *joint, *mates]

          def figure(name) = @rulebook.value("cause.figures.#{name}")

          def wood
            left, warm = @facts.values_at(:wood_life_left, :wood_warm_hours)
            [left && left < figure("life_low") && { sign: "old-wood", share: left },
             warm && warm.positive? && warm > @rulebook.value("reckoning.storage.life_warm") * figure("warm_share") &&
             { sign: "warm-wood", hours: warm },
             @facts[:moved_early] && { sign: "false-start" }].map { |each| each || nil }
          end

          def weather
            from, to = @facts.values_at(:grafted_on, :failed_on)
            hot = @climate.heat(grown_on? ? to - figure("heat_before") : from, to)
            gale = @facts[:had_grown] && @climate.gale(from, to, within: @rulebook.task("after-gale")["closes"])
            frost = @facts[:had_grown] && frost(from, to)
            dry = @climate.dry(from, to)
            [hot && { sign: "hot-days", on: hot }, hot && %w[foil-and-bag film].include?(@facts[:cover]) ?
             { sign: "hot-cover" } : nil,
             gale ? { sign: "gale", on: gale } : nil, frost ? { sign: "frost", on: frost } : nil,
             dry && { sign: "dry-spell", on: dry }]
          end

          def frost(from, to)
            season = Season.new(southern: @facts[:southern])
            @climate.frost(from, to, within: @rulebook.task("after-frost")["closes"]) do |date|
              Leaf.soft?(date, @facts[:species], season, @rulebook, place: place)
            end
          end

          def place = @facts[:latitude_deg] && [@facts[:latitude_deg], @facts[:altitude_m] || 0]

          # Callus behind what the species' ordinary days would have given it.
          def cold
            ordinary = @facts[:grafted_on] + @rulebook.value("species.#{@facts[:species]}.knit_days")
            knit = @climate.knit(@facts[:species], @facts[:grafted_on], [ordinary, @facts[:failed_on]].min)
            return nil unless knit[:share] && knit[:on] > ordinary + figure("late_days")

            { sign: "cold", share: knit[:share], days: (knit[:on] - ordinary).to_i }
          end

          # How bark lifted, and how the joint was kept shut.
          def joint
            [{ "reluctant" => { sign: "bark-reluctant" }, "none" => { sign: "bark-none" } }[@facts[:bark_slip]],
             ({ sign: "seal-cracked" } if @facts[:seal_cracked])]
          end

          def hands
            [({ sign: "wrap-loose" } if @facts[:wrap_loose]), ({ sign: "tape-biting" } if @facts[:tape_biting]),
             ({ sign: "pests" } if @facts[:pests]),
             ({ sign: "in-reach" } if @facts[:in_reach] && @facts[:had_grown])]
          end

          def mates
            took, failed = @facts.values_at(:day_took, :day_failed)
            [(@facts[:mates_took].positive? ? { sign: "stub-mates-live", count: @facts[:mates_took] } : nil),
             (@facts[:mates_took].zero? && took > failed ? { sign: "stub-alone", took: took } : nil),
             (failed >= 2 && failed > took ? { sign: "day-failed", failed: failed, took: took } : nil)]
          end
        end
        private_constant :Signs
      end
    end
  end
end
