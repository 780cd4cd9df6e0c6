# frozen_string_literal: true

module Vestry
  module Core
    module Plan
      # How many sticks a stub takes, and on which faces.
      module Sticks
        extend Reckoning

        PRACTICES = %w[single pair ring].freeze

        contract "sticks", "How many sticks a stub takes, and on which faces" do
          number :wood_diameter_mm, unit: "mm", above: 0, help: "under the bark"
          name :practice, PRACTICES
          number :rise_deg, unit: "degrees", least: -90, most: 90
          number :flat_deg, unit: "degrees from north", least: 0, below: 360, optional: true,
                            help: "bearing of the flatter face"
          number :wind_from_deg, unit: "degrees from north", least: 0, below: 360, optional: true,
                                 help: "where the wind comes from"
          name :method, -> { Rulebook.shipped.stub_methods }, optional: true, help: "no more than it takes"
        end

        # On an upright stub the first stick goes to the flat face, and to windward between
        # equal faces: the whole degree b with the greatest cos^2(b - flat) + 0.5 cos(b - wind).
        # On a leaning one, by degrees from the upper side.
        #
        # @return [Hash] +count+, and +bearings_deg+ (upright; from north) or +clock_deg+
        #   (leaning; from the upper side), with +reasons+
        def self.call(wood_diameter_mm:, practice:, rise_deg:, flat_deg: nil, wind_from_deg: nil, method: nil,
                      rulebook: Rulebook.shipped)
          most = method && rulebook.value("methods.#{method}.most_sticks")
          count = [count(wood_diameter_mm, practice, rulebook), most].compact.min
          reasons = [{ code: "sticks_#{practice}", count: count, wood_mm: wood_diameter_mm }]
          if Near.at_least?(rise_deg, rulebook.value("reckoning.sticks.upright_from"))
            first = first_bearing(flat_deg, wind_from_deg, rulebook)
            reasons << { code: "faces_upright", flat_deg: flat_deg, wind_from_deg: wind_from_deg, first_deg: first }
            { count: count, bearings_deg: Array.new(count) { |i| (first + i * 360.0 / count) % 360 }, reasons: reasons }
          else
            reasons << { code: "faces_leaning", rise_deg: rise_deg }
            clock = rulebook.value("reckoning.sticks.leaning").fetch(count)
            { count: count, clock_deg: clock.map(&:to_f), reasons: reasons }
          end
        end

        def self.count(wood, practice, rulebook)
          case practice
          when "single" then 1
          when "pair" then Near.at_least?(wood, rulebook.value("reckoning.sticks.pair_from")) ? 2 : 1
          when "ring"
            spacing = rulebook.value("reckoning.sticks.ring_spacing")
            Near.ceil(Math::PI * wood / spacing).clamp(1, rulebook.value("reckoning.sticks.ring_most"))
          end
        end

        def self.first_bearing(flat, wind, rulebook)
          weight = rulebook.value("reckoning.sticks.wind_weight")
          worth = lambda do |bearing|
            (flat ? cosine(bearing - flat)**2 : 0.0) + (wind ? weight * cosine(bearing - wind) : 0.0)
          end
          best = (0..359).map(&worth).max
          (0..359).find { |bearing| Near.at_least?(worth.call(bearing), best) }.to_f
        end

        def self.cosine(degrees) = Math.cos(degrees * Math::PI / 180)
        private_class_method :count, :first_bearing, :cosine
      end
    end
  end
end
