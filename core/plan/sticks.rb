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
          flag :flat_one_side, default: false, help: "the face was measured at that bearing and not at its opposite"
          number :bearing_deg, unit: "degrees from north", least: 0, below: 360, optional: true,
                               help: "where a leaning limb points; its flat face is weighed only with it"
          number :wind_from_deg, unit: "degrees from north", least: 0, below: 360, optional: true,
                                 help: "where the wind comes from"
          name :method, -> { Rulebook.shipped.stub_methods }, optional: true, help: "no more than it takes"
        end

        # On an upright stub the first stick goes to the flat face, and to windward between
        # equal faces: the whole degree b with the greatest cos^2(b - flat) + 0.5 cos(b - wind); a face that is
        # flat on one side only is worth nothing behind it: max(0, cos(b - flat))^2.
        # On a leaning one, by degrees from the upper side, clockwise as seen from the cut end; all turn towards a flat
        # face that is not underneath, as far as none passes the side of the limb (see #turn).
        #
        # @return [Hash] +count+, and +bearings_deg+ (upright; from north) or +clock_deg+
        #   (leaning; from the upper side), with +reasons+
        def self.call(wood_diameter_mm:, practice:, rise_deg:, flat_deg: nil, flat_one_side: false, bearing_deg: nil,
                      wind_from_deg: nil, method: nil, rulebook: Rulebook.shipped)
          most = method && rulebook.value("methods.#{method}.most_sticks")
          count = [count(wood_diameter_mm, practice, rulebook), most].compact.min
          faces = faces(count, rise_deg: rise_deg, flat_deg: flat_deg, flat_one_side: flat_one_side,
                               bearing_deg: bearing_deg, wind_from_deg: wind_from_deg, method: method,
                               rulebook: rulebook)
          reasons = [{ code: "sticks_#{practice}", count: count, wood_mm: wood_diameter_mm }]
          { count: count, **faces, reasons: reasons + faces[:reasons] }
        end

        # What is proposed where nothing is decided: a school's habit, but never one stick alone on a stub so wide that
        # one side of it would die back, where the method has room for two.
        #
        # @param habit [String] one of PRACTICES
        # @param diameter_mm [Float] of the stub
        # @return [String] one of PRACTICES
        def self.proposed(habit, diameter_mm, method: nil, rulebook: Rulebook.shipped)
          room = method.nil? || rulebook.value("methods.#{method}.most_sticks") > 1
          habit == "single" && room && too_wide_for_one?(diameter_mm, rulebook) ? "pair" : habit
        end

        def self.too_wide_for_one?(diameter_mm, rulebook)
          diameter_mm > rulebook.value("reckoning.sticks.one_most") + Near::TOLERANCE
        end

        # On which faces so many sticks sit.
        #
        # @param count [Integer] 1 to 5
        # @param method [String, nil] two in a split sit at its ends
        # @return [Hash] +bearings_deg+ or +clock_deg+, and +reasons+
        def self.faces(count, rise_deg:, flat_deg: nil, flat_one_side: false, bearing_deg: nil, wind_from_deg: nil,
                       method: nil, rulebook: Rulebook.shipped)
          if Near.at_least?(rise_deg, rulebook.value("reckoning.sticks.upright_from"))
            first = first_bearing(flat_deg, flat_one_side, wind_from_deg, rulebook)
            why = { code: "faces_upright", flat_deg: flat_deg, wind_from_deg: wind_from_deg, first_deg: first }
            { bearings_deg: Array.new(count) { |i| (first + i * 360.0 / count) % 360 }, reasons: [why] }
          else
            clock = places(count, method, rulebook)
            turned = turn(flat_deg, bearing_deg, rise_deg, clock.map(&:abs).max, rulebook)
            why = { code: "faces_leaning", rise_deg: rise_deg, flat_deg: (flat_deg unless turned.zero?),
                    turn_deg: turned }
            { clock_deg: clock.map { |deg| deg + turned }, reasons: [why] }
          end
        end

        def self.places(count, method, rulebook)
          split = count == 2 && method && rulebook.method_fact(method, "kin") == "cleft"
          (split ? rulebook.value("reckoning.sticks.split") : rulebook.value("reckoning.sticks.leaning").fetch(count))
            .map(&:to_f)
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

        # Where a face that looks to a bearing lies on a leaning limb: the face's direction, seen along the limb's axis.
        #
        # @param face_deg [Numeric] the bearing it looks to
        # @param bearing_deg [Numeric] where the limb points
        # @return [Float] degrees from the upper side, clockwise as seen from the cut end, over -180 and up to 180
        def self.clock(face_deg, bearing_deg, rise_deg)
          right = sine(bearing_deg - face_deg)
          up = -sine(rise_deg) * cosine(face_deg - bearing_deg)
          Math.atan2(right.round(9), up.round(9)) * 180 / Math::PI
        end

        # How far the sticks of a leaning stub turn to its flat face.
        def self.turn(flat, bearing, rise, widest, rulebook)
          return 0.0 unless flat && bearing

          at = clock(flat, bearing, rise)
          room = [90.0 - widest, rulebook.value("reckoning.sticks.flat_turn")].min
          at.abs > 90 || room <= 0 ? 0.0 : at.clamp(-room, room).round.to_f
        end

        def self.first_bearing(flat, one_side, wind, rulebook)
          weight = rulebook.value("reckoning.sticks.wind_weight")
          worth = lambda do |bearing|
            face = flat ? cosine(bearing - flat) : 0.0
            face = 0.0 if one_side && face.negative?
            face**2 + (wind ? weight * cosine(bearing - wind) : 0.0)
          end
          best = (0..359).map(&worth).max
          (0..359).find { |bearing| Near.at_least?(worth.call(bearing), best) }.to_f
        end

        def self.cosine(degrees) = Math.cos(degrees * Math::PI / 180)
        def self.sine(degrees) = Math.sin(degrees * Math::PI / 180)
        private_class_method :count, :places, :turn, :first_bearing, :cosine, :sine
      end
    end
  end
end
