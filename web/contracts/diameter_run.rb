# frozen_string_literal: true

module Vestry
  module Web
    module Contracts
      # Diameters typed one after another, as a caliper calls them out.
      module DiameterRun
        module_function

        # A count before its size, as it is said back: 3 × 8 mm.
        COUNTED = /(?<![\d.,\/])([1-9]\d{0,2})\s*[×x*]\s*(?=[\d½¼¾⅛⅜⅝⅞])/i
        # A unit that stands apart from its number.
        UNIT = /(?<=[\d½¼¾⅛⅜⅝⅞])\s+(?=(?:mm|cm|in|inch|inches|["″”])(?:[\s,;]|\z))/i
        SIZE = { "imperial" => %r{\d+\s+\d+/\d+[^\s;]*|[^\s;]+} }.freeze
        private_constant :COUNTED, :UNIT, :SIZE

        # @param text [String] numbers apart by spaces, commas or new lines, each perhaps behind how many there are of
        #   it; in mm, or in inches where the orchard measures so
        # @return [Array<Float>] mm
        # @raise [Core::BadInput] naming the one that cannot be, or where there are more than a bundle takes
        def read(text, units)
          found = sizes(text, units)
          raise Core::BadInput.new("", Deeds::MakeBundle::TOO_MANY) if found.sum(&:first) > Deeds::MakeBundle::MOST

          found.each_with_index.flat_map do |(count, word), i|
            [likely(word, i, units)] * count
          rescue Core::BadInput => e
            raise e if e.allowed.start_with?("number")

            raise Core::BadInput.new("", "number #{i + 1}, #{e.allowed}")
          end
        end

        # How many, and how they were written.
        def sizes(text, units)
          joined = text.gsub(COUNTED) { "#{$1}×" }.gsub(UNIT, "")
          words = joined.scan(/\d{1,3}×|#{SIZE.fetch(units, /[^\s;]+/)}/).map { |word| word.delete_suffix(",") }
          words.reject(&:empty?).slice_when { |before, _| !before.end_with?("×") }
            .map { |*counts, word| counts.size == 1 ? [counts[0].to_i, word] : [1, [*counts, word].join] }
        end

        def likely(word, place, units)
          low, high = Core::Rulebook.shipped.value("plausible.scion")
          mm = Core::Measure.parse(word, units: units, most: high).mm
          held = Core::Measure.within(mm, low, high, units) and return held

          raise Core::BadInput.new("",
                                   "number #{place + 1}, “#{word}”, is #{Core::Measure.say(mm, units)}; last " \
                                   "season's growth is #{Core::Measure.say(low, units)} " \
                                   "to #{Core::Measure.say(high, units)} thick")
        end
        private_class_method :sizes, :likely
      end
    end
  end
end
