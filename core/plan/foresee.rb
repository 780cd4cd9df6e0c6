# frozen_string_literal: true

module Vestry
  module Core
    module Plan
      # Many futures of one plan: how it will probably end, and what it may cost in regrafts.
      module Foresee
        extend Reckoning

        contract "foresee", "Many futures of a plan: how it will probably end" do
          list :groups, longest: 200, unique: :id do
            key :id, help: "of stubs whose chance is one: a kind, a method, a hand"
            number :mean, least: 0, most: 1, help: "share of single sticks that take"
            number :strength, above: 0, most: 1e6, help: "sights that the mean is worth"
          end
          list :stubs, longest: 500, unique: :id do
            key :id
            key :group
            integer :season, least: -200, most: 200,
                             help: "in which it is grafted; 0 is the first, below 0 one gone by"
            number :share, least: 0, most: 1, help: "of the head, that goes with it"
            number :stub_mm, unit: "mm", above: 0
            integer :sticks, above: 0, most: 12, default: 1
            key :wood, optional: true, help: "of which it is worked again; without it there is enough"
            number :minutes, unit: "minutes", least: 0, default: 0.0, help: "that it takes to work"
            flag :needs_slip, default: true, help: "whether it waits for days on which bark slips"
            number :shoot_mm, unit: "mm", least: 0, help: "of its first year"
            list :measured, longest: 200, default: [].freeze, help: "what was counted of it", &Regrowth::READINGS
            flag :headed, default: false, help: "its old wood is off already: it was worked before, and lost"
            list :wind, item(:number, least: 0, most: 1), size: 2, default: [0.0, 0.0].freeze,
                                                           help: "chance to be blown out in its first and second season"
          end
          record :old, optional: true, help: "the head outside the stubs" do
            number :share, least: 0, most: 1
            list :lifts, longest: 500, default: [].freeze do
              number :share, least: 0, most: 1
              integer :season, least: 0, most: 200, default: 0
            end
          end
          integer :seasons, above: 0, most: 60, default: 10
          record :regraft, optional: true, help: "of stubs that failed; none is made without it" do
            integer :tries, least: 0, most: 10
            number :takes_factor, least: 0, most: 1
          end
          list :wood, longest: 200, unique: :id, default: [].freeze,
                      help: "for what is worked again, when all is set once" do
            key :id
            integer :sticks, least: 0, help: "that are over"
            number :a_winter, least: 0, default: 0.0, help: "sticks that other trees give every winter"
            integer :gives, least: 0, default: 0, help: "sticks that a living stub of it gives in a winter"
          end
          list :years, longest: 200, default: [].freeze, help: "past years, of which each season is one" do
            number :minutes, unit: "minutes", least: 0, help: "that a crew could work while bark slipped"
            number :gust, least: 0, most: 100, default: 1.0, help: "by which the chance to be blown out is multiplied"
          end
          list :busy, item(:number, least: 0), longest: 60, default: [].freeze,
                                               help: "minutes of a season that go to other trees first"
          flag :nut, default: false
          integer :runs, above: 0, most: 20_000, default: 2000
          integer :seed, least: 0, most: 2**31, default: 1
        end

        QUANTILES = { p10: 0.1, p50: 0.5, p90: 0.9 }.freeze

        # A run draws one chance for each group from Beta(mean x strength, (1 - mean) x strength): what is not known of
        # one's own hand is the same for all of its stubs. A stub takes where one of its sticks does. A living one is
        # blown out in its first and second season by its wind. What failed or was blown out is worked again in the next
        # season, its sticks taking takes_factor times as often, +tries+ times at most. Its share is old wood until it
        # is worked, unless it is headed already, and comes back by Regrowth from the season it was last worked in; the
        # crop as Projection has it. Where past years are given, each season of a run is one of them: its stubs are
        # worked in order while its minutes last, less those of other trees, and the rest are put off to the next; gusts
        # are that year's. What is worked again needs its wood, and waits a season where there is none. The same seed
        # draws the same years and the same luck for a stub of the same id, so that plans are compared alike.
        #
        # @return [Hash] +seasons+, each +season+, +living+ and +crop+ with +p10+, +p50+, +p90+ (nearest rank) and
        #   +mean+; +regrafts+ and +put_off+ (how often a stub is, for want of days) with the same, and the
        #   +regraft_sticks+ and +regraft_minutes+ that regrafts take; +all_took+, the share of runs in which every stub
        #   lives at the end; and +crop_back+ with +p10+, +p50+ and +p90+: the first season from the last work on with
        #   nine tenths of the crop that the run comes to, nil where that is never or no graft lives
        # @raise [BadInput] for a stub of no group
        def self.call(groups:, stubs:, old: nil, seasons: 10, regraft: nil, wood: [], years: [], busy: [], nut: false,
                      runs: 2000, seed: 1, rulebook: Rulebook.shipped)
          raise BadInput.new("stubs", "at least one stub") if stubs.empty?

          futures = Futures.new({ groups: groups, stubs: stubs, old: old, seasons: seasons, regraft: regraft,
                                  wood: wood, years: years, busy: busy, nut: nut }, rulebook)
          random = Random.new(seed)
          answers = Array.new(runs) { futures.run(random) }
          { seasons: (0...seasons).map { |season| of_season(season, answers) },
            **%i[regrafts regraft_sticks regraft_minutes put_off]
              .to_h { |what| [what, told(answers.map { |each| each[what] })] },
            all_took: answers.count { |each| each[:all] } / runs.to_f,
            crop_back: ranks(answers.map { |each| each[:back] || Float::INFINITY })
              .transform_values { |each| each.infinite? ? nil : each } }
        end

        def self.of_season(season, answers)
          { season: season, living: told(answers.map { |each| each[:living][season] }),
            crop: told(answers.map { |each| each[:crop][season] }) }
        end

        def self.told(values) = { **ranks(values), mean: values.sum / values.size.to_f }

        def self.ranks(values)
          sorted = values.sort
          QUANTILES.transform_values { |share| sorted[[(share * sorted.size).ceil, 1].max - 1].to_f }
        end
        private_class_method :of_season, :told, :ranks
      end
    end
  end
end
