# frozen_string_literal: true

module Vestry
  module Core
    module Wood
      # How many sticks and shoots to cut, with a reserve for regrafts and for what is thrown out.
      module Wanted
        extend Reckoning

        contract "wood", "Sticks and shoots to cut, with a reserve for regrafts and culls" do
          list :varieties, longest: 500 do
            key :name
            integer :stubs, least: 0, most: 5_000
            integer :sticks_per_stub, above: 0, most: 12
            number :success, least: 0, most: 1, help: "share of single sticks that take"
            integer :trials, least: 0, most: 100_000, optional: true,
                             help: "stubs that it was learned from; none where it is known for sure"
          end
          number :confidence, least: 0, most: 1, default: 0.9, help: "that the reserve is enough"
          number :cull, least: 0, below: 1, default: 0.1, help: "share of the sticks cut that are thrown out"
          number :stick_mm, unit: "mm", above: 0
          number :shoot_mm, unit: "mm", above: 0
          number :tip_mm, unit: "mm", least: 0, help: "unripe tip thrown away"
          number :base_mm, unit: "mm", least: 0, help: "thick base thrown away"
        end

        # So much is reckoned within two seconds: chances of counts, over all lines.
        MOST_WORK = 1_500_000
        private_constant :MOST_WORK

        # A stub fails when all its k sticks do, with q = (1 - success)^k: binomial where success is known, else its
        # mean
        # over a Beta distribution (see Failures). The reserve is k times the least j with P(F <= j) >= confidence.
        # Culls
        # are chance too: total is the least N with which, after culling, enough are left for every stub and every
        # failure with this confidence. A shoot gives floor((shoot - tip - base) / stick).
        #
        # @return [Hash] +sticks_per_shoot+; +varieties+, one for each line that was given, with +name+,
        #   +sticks+, +reserve+, +total+ and +shoots+; and +names+, the same for all lines of a name together
        # @raise [BadInput] when no stick comes from a shoot, or there is too much to reckon
        def self.call(varieties:, stick_mm:, shoot_mm:, tip_mm:, base_mm:, confidence: 0.9, cull: 0.1, rulebook: nil)
          per_shoot = sticks_of(shoot_mm - tip_mm - base_mm, stick_mm)
          if varieties.sum { |each| work(each) } > MOST_WORK
            raise BadInput.new("varieties", "fewer varieties or fewer stubs: so many take too long to reckon")
          end

          chances = Hash.new { |known, kind| known[kind] = Failures.of(*kind) }
          lines = varieties.map { |each| line([each], chances, confidence, cull, per_shoot) }
          names = varieties.group_by { |each| each[:name] }.map do |_, all|
            line(all, chances, confidence, cull, per_shoot)
          end
          { sticks_per_shoot: per_shoot, varieties: lines, names: names }
        end

        # How many sticks a shoot gives.
        def self.sticks_of(left_mm, stick_mm)
          count = Near.floor(left_mm / stick_mm)
          return count if count.positive?

          raise BadInput.new("stick_mm", "a number in mm no longer than what is left of a shoot, " \
                                         "#{Contract.plain([left_mm, 0.0].max)}")
        end

        # About how much a line asks for: the chances of its failures, and finding how many to cut.
        def self.work(variety)
          stubs, trials = variety.values_at(:stubs, :trials)
          spread = [stubs + 1, 9 * Math.sqrt(stubs)].min
          (trials ? 60 : 1) * spread + 400 * Math.sqrt(stubs * variety[:sticks_per_stub])
        end

        # What some lines of one variety want together.
        def self.line(lines, chances, confidence, cull, per_shoot)
          sticks = lines.sum { |each| each[:stubs] * each[:sticks_per_stub] }
          regrafts = lines.map do |each|
            k = each[:sticks_per_stub]
            chances[[each[:stubs], k, each[:success], each[:trials]]].transform_keys { |failed| failed * k }
          end.reduce { |all, more| Failures.sum(all, more) }
          total = total(sticks, regrafts, confidence, 1 - cull)
          { name: lines.first[:name], sticks: sticks, reserve: Failures.least(regrafts, confidence), total: total,
            shoots: Near.ceil(total / per_shoot.to_f) }
        end

        # The least number to cut so that enough of them stand: more never serve less, so it is halved in on.
        def self.total(sticks, regrafts, confidence, sound)
          return 0 if sticks.zero?

          wanted = regrafts.transform_keys { |more| sticks + more }
          low, high = [wanted.keys.min, Failures.least(wanted, confidence)].map { |count| Near.ceil(count / sound) }
          low = sticks - 1 if enough?(low - 1, wanted, sound, confidence)
          high += high / 20 + 1 until enough?(high, wanted, sound, confidence)
          ((low..high).bsearch { |cut| enough?(cut, wanted, sound, confidence) })
        end

        # Whether so many cut leave as many sound ones as are wanted, with this confidence.
        def self.enough?(cut, wanted, sound, confidence)
          return false if cut < wanted.keys.min

          left = Failures.binomial(cut, sound)
          sum = 0.0
          # The chance that at least so many stand, from the greatest number down.
          standing = left.reverse_each.to_h { |count, chance| [count, sum += chance] }
          least = left.keys.first
          chance = wanted.sum { |count, likely| likely * (count <= least ? 1.0 : standing.fetch(count, 0.0)) }
          Near.at_least?(chance, confidence)
        end
        private_class_method :sticks_of, :work, :line, :total, :enough?
      end
    end
  end
end
