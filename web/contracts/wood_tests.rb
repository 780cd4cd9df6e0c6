# frozen_string_literal: true

module Vestry
  module Web
    module Contracts
      # What three tests of stored wood came to, as they were typed.
      module WoodTests
        NUMBERS = { forced: 1..20, forced_moved: 0..20, weight: 1..100_000 }.freeze
        ASKED = { forced: "how many were forced", forced_moved: "how many of them moved",
                  weight: "its weight in g, or such as 12 oz" }.freeze
        private_constant :ASKED

        module_function

        # @param typed [Hash] +cut+, +forced+, +forced_moved+ and +weight+
        # @return [Hash] +cut+, +forced+, +forced_moved+ and +weight_g+; nil where nothing was typed
        # @raise [Deeds::Refused]
        def of(typed)
          numbers = NUMBERS.to_h { |name, range| [name, number(name, typed[name.to_s].to_s.strip, range)] }
          cut = typed["cut"].to_s
          unless cut.empty? || Core::Wood::Viability::CUTS.include?(cut)
            raise Deeds::Refused, cut: ["choose what the shaving shows"]
          end

          { cut: (cut unless cut.empty?), **numbers.slice(:forced, :forced_moved), weight_g: numbers[:weight] }
        end

        def number(name, said, range)
          return if said.empty?

          number = name == :weight ? Core::Values.grams(said) : Integer(said, 10, exception: false)
          return number if number && range.cover?(number)

          field = name == :weight ? :weight : :forced
          limits = "from #{range.min} to #{range.max}#{' g' if name == :weight}"
          raise Deeds::Refused, field => ["say #{ASKED.fetch(name)}, #{limits}"]
        end
        private_class_method :number
      end
    end
  end
end
