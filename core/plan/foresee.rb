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
            number :minutes, unit: "minutes", least: 0, default: 0.0, help: "that it takes to work"
            number :shoot_mm, unit: "mm", least: 0, help: "of its first year"
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
          flag :nut, default: false
          integer :runs, above: 0, most: 20_000, default: 2000
          integer :seed, least: 0, most: 2**31, default: 1
        end

        QUANTILES = { p10: 0.1, p50: 0.5, p90: 0.9 }.freeze

        # A run draws one chance for each group from Beta(mean x strength, (1 - mean) x strength): what is not known of
        # one's own hand is the same for all of its stubs. A stub takes where one of its sticks does. A living one is
        # blown out in its first and second season by its wind. What failed or was blown out is worked again in the next
        # season, its sticks taking takes_factor times as often, +tries+ times at most. Its share is old wood until its
        # season, and comes back by Regrowth from the one it was last worked in; the crop as Projection has it.
        #
        # @return [Hash] +seasons+, each +season+, +living+ and +crop+ with +p10+, +p50+, +p90+ (nearest rank) and
        #   +mean+; +regrafts+ with the same, and the +regraft_sticks+ and +regraft_minutes+ that they take; +all_took+,
        #   the share of runs in which every stub lives at the end; and +crop_back+ with +p10+, +p50+ and +p90+: the
        #   first season from the last work on with nine tenths of the crop that the run comes to, nil where that is
        #   never
        # @raise [BadInput] for a stub of no group
        def self.call(groups:, stubs:, old: nil, seasons: 10, regraft: nil, nut: false, runs: 2000, seed: 1,
                      rulebook: Rulebook.shipped)
          raise BadInput.new("stubs", "at least one stub") if stubs.empty?

          futures = Futures.new(groups, stubs, old || { share: 0.0, lifts: [] }, seasons, regraft, nut, rulebook)
          random = Random.new(seed)
          answers = Array.new(runs) { futures.run(random) }
          { seasons: (0...seasons).map { |season| of_season(season, answers) },
            **%i[regrafts regraft_sticks regraft_minutes]
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

        # What every run of one plan shares.
        class Futures
          def initialize(groups, stubs, old, seasons, regraft, nut, rulebook)
            @groups = groups
            @places = groups.each_with_index.to_h { |group, place| [group[:id], place] }
            @seasons = seasons
            @tries, @factor = regraft ? regraft.values_at(:tries, :takes_factor) : [0, 1.0]
            @back_at = rulebook.value("reckoning.projection.back_at")
            @bearing = rulebook.value("reckoning.projection.bearing")
            @later = nut ? rulebook.value("reckoning.projection.nut_later") : 0
            @stubs = stubs.each_with_index.map { |stub, place| facts(stub, place, rulebook) }
            @old = old_by_season(old)
            @last = [*stubs.map { |stub| stub[:season] }, 0].max
          end

          # @return [Hash] +living+ and +crop+ by season, +regrafts+, +all+ and +back+
          def run(random)
            chances = @groups.map { |group| Chance.beta(group[:mean], group[:strength], random) }
            living, crop = @old.dup, @old.dup
            again = { regrafts: 0, regraft_sticks: 0, regraft_minutes: 0.0 }
            all = @stubs.map do |stub|
              times, lives = grow(stub, chances[stub[:group]], random, living, crop)
              count(again, stub, times) if times.positive?
              lives
            end.all?
            { living: living, crop: crop, **again, all: all, back: back(crop, living.last) }
          end

          private

          def facts(stub, place, rulebook)
            group = @places.fetch(stub[:group]) do
              raise BadInput.new("stubs[#{place}].group", "one of the groups that are given")
            end
            seasons = @seasons - [stub[:season], 0].min
            grown = Regrowth.call(**stub.slice(:stub_mm, :shoot_mm), seasons: seasons, rulebook: rulebook)[:shares]
              .map { |share| share * stub[:share] }
            { **stub.slice(:season, :share, :sticks, :minutes, :wind), group: group, living: grown,
              crop: grown.each_with_index.map { |share, age| share * Projection.at(@bearing, age - @later) } }
          end

          def count(again, stub, times)
            again[:regrafts] += times
            again[:regraft_sticks] += times * stub[:sticks]
            again[:regraft_minutes] += times * stub[:minutes]
          end

          def old_by_season(old)
            Array.new(@seasons) do |season|
              gone = (old[:lifts] || []).select { |lift| lift[:season] <= season }
              old[:share] - gone.sum(0.0) { |lift| lift[:share] }
            end
          end

          # One stub through its seasons, added to what lives and bears.
          #
          # @return [Array(Integer, Boolean)] how often it was worked again, and whether it lives at the end
          def grow(stub, chance, random, living, crop)
            stub[:season].clamp(0, @seasons).times do |season|
              living[season] += stub[:share]
              crop[season] += stub[:share]
            end
            season, tried = stub[:season], 0
            loop do
              return [tried, true] if season >= @seasons

              stands = lasts(stub, tried.zero? ? chance : chance * @factor, random)
              add(stub, season, stands, living, crop)
              return [tried, true] if stands.nil?
              return [tried, false] if tried >= @tries

              tried += 1
              season += stands + 1
              return [tried, false] if season >= @seasons
            end
          end

          # So many seasons it stands before it is lost: none where it fails, nil where it is never.
          def lasts(stub, chance, random)
            took = random.rand < 1 - (1 - chance)**stub[:sticks]
            first, second = random.rand < stub[:wind][0], random.rand < stub[:wind][1]
            return 0 if !took || first

            second ? 1 : nil
          end

          def add(stub, from, stands, living, crop)
            upto = stands ? [from + stands, @seasons].min : @seasons
            ([from, 0].max...upto).each do |season|
              living[season] += stub[:living][season - from]
              crop[season] += stub[:crop][season - from]
            end
          end

          def back(crop, comes_to)
            (@last...@seasons).find { |season| Near.at_least?(crop[season], @back_at * comes_to) }
          end
        end

        # Chances drawn from a Beta distribution.
        module Chance
          module_function

          # @param mean [Float] 0..1
          # @param strength [Float] sights that it is worth
          # @return [Float] 0..1
          def beta(mean, strength, random)
            return mean if mean <= 0 || mean >= 1

            one, other = gamma(mean * strength, random), gamma((1 - mean) * strength, random)
            (one + other).positive? ? one / (one + other) : mean
          end

          # Marsaglia and Tsang (2000); below one by their boost.
          def gamma(shape, random)
            return gamma(shape + 1, random) * (1 - random.rand)**(1 / shape) if shape < 1

            d = shape - 1 / 3.0
            spread = 1 / Math.sqrt(9 * d)
            loop do
              x = normal(random)
              cube = (1 + spread * x)**3
              return d * cube if cube.positive? && kept?(x, cube, d, random)
            end
          end

          def kept?(x, cube, d, random)
            Math.log(1 - random.rand) < 0.5 * x * x + d - d * cube + d * Math.log(cube)
          end

          # One draw of mean 0 and spread 1 (Box and Muller).
          def normal(random)
            Math.sqrt(-2 * Math.log(1 - random.rand)) * Math.cos(2 * Math::PI * random.rand)
          end
          private_class_method :gamma, :kept?, :normal
        end
        private_constant :Futures, :Chance
      end
    end
  end
end
