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
            integer :stubs, least: 0, most: 100_000
            integer :sticks_per_stub, above: 0, most: 12
            number :success, least: 0, most: 1, help: "share of single sticks that take"
          end
          number :confidence, least: 0, most: 1, default: 0.9, help: "that the reserve is enough"
          number :cull, least: 0, below: 1, default: 0.1, help: "share of the sticks cut that are thrown out"
          number :stick_mm, unit: "mm", above: 0
          number :shoot_mm, unit: "mm", above: 0
          number :tip_mm, unit: "mm", least: 0, help: "unripe tip thrown away"
          number :base_mm, unit: "mm", least: 0, help: "thick base thrown away"
        end

        # A stub fails when all its sticks do: q = (1 - success)^k. The reserve is k times the
        # least j with BinomialCDF(j; stubs, q) >= confidence; total = ceil((sticks + reserve) /
        # (1 - cull)); a shoot gives floor((shoot - tip - base) / stick).
        #
        # @return [Hash] +sticks_per_shoot+; +varieties+, one for each line that was given, with +name+,
        #   +sticks+, +reserve+, +total+ and +shoots+; and +names+, the same summed by name
        # @raise [BadInput] when no stick comes from a shoot
        def self.call(varieties:, stick_mm:, shoot_mm:, tip_mm:, base_mm:, confidence: 0.9, cull: 0.1, rulebook: nil)
          per_shoot = Near.floor((shoot_mm - tip_mm - base_mm) / stick_mm)
          unless per_shoot.positive?
            raise BadInput.new("stick_mm",
                               "a number in mm no longer than what is left of a " \
                               "shoot, #{Contract.plain([shoot_mm - tip_mm - base_mm, 0.0].max)}")
          end

          lines = varieties.map { |each| line(each, confidence, cull, per_shoot) }
          names = lines.group_by { |each| each[:name] }.map do |name, all|
            { name: name, **%i[sticks reserve total shoots].to_h { |what| [what, all.sum { |each| each[what] }] } }
          end
          { sticks_per_shoot: per_shoot, varieties: lines, names: names }
        end

        def self.line(variety, confidence, cull, per_shoot)
          k = variety[:sticks_per_stub]
          sticks = variety[:stubs] * k
          reserve = k * failures(variety[:stubs], (1 - variety[:success])**k, confidence)
          total = Near.ceil((sticks + reserve) / (1 - cull))
          { name: variety[:name], sticks: sticks, reserve: reserve, total: total,
            shoots: Near.ceil(total / per_shoot.to_f) }
        end

        # The least number of failures that is not exceeded with this confidence. Terms are summed
        # by their logarithms, so that many stubs do not vanish below the smallest float.
        def self.failures(stubs, share, confidence)
          return 0 if stubs.zero? || share <= 0
          return stubs if share >= 1

          sum = 0.0
          log = stubs * Math.log(1 - share)
          (0..stubs).each do |j|
            log += Math.log((stubs - j + 1) / j.to_f * share / (1 - share)) if j.positive?
            sum += Math.exp(log)
            return j if Near.at_least?(sum, confidence)
          end
          stubs
        end
        private_class_method :line, :failures
      end
    end
  end
end
