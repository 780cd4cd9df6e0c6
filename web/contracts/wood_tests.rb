# frozen_string_literal: true

module Vestry
  module Web
    module Contracts
      # What three tests of stored wood came to, as they were typed.
      module WoodTests
        NUMBERS = { forced: 1..20, forced_moved: 0..20, weight: 1..100_000 }.freeze
        ASKED = { forced: "how many were forced", forced_moved: "how many of them moved",
                  weight: { "metric" => "its weight in g, or such as 12 oz",
                            "imperial" => "its weight in oz, or such as 340 g" } }.freeze
        private_constant :ASKED

        module_function

        # @param typed [Hash] +cut+, +forced+, +forced_moved+ and +weight+
        # @param units [String] of a weight without one
        # @return [Hash] +cut+, +forced+, +forced_moved+ and +weight_g+; nil where nothing was typed
        # @raise [Deeds::Refused]
        def of(typed, units: "metric")
          numbers = NUMBERS.to_h { |name, range| [name, number(name, typed[name.to_s].to_s.strip, range, units)] }
          cut = typed["cut"].to_s
          unless cut.empty? || Core::Wood::Viability::CUTS.include?(cut)
            raise Deeds::Refused, cut: ["choose what the shaving shows"]
          end

          { cut: (cut unless cut.empty?), **numbers.slice(:forced, :forced_moved), weight_g: numbers[:weight] }
        end

        def number(name, said, range, units)
          return if said.empty?

          weight = name == :weight
          number = weight ? Core::Values.grams(said, units: units) : Integer(said, 10, exception: false)
          return number if number && range.cover?(number)
          raise Deeds::Refused, forced: ["say #{ASKED.fetch(name)}, from #{range.min} to #{range.max}"] unless weight

          raise Deeds::Refused, weight: ["say #{ASKED[:weight].fetch(units)}, from #{range.min} to #{range.max} g"]
        end
        private_class_method :number
      end
    end
  end
end
