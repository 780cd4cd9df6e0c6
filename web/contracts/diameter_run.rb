# frozen_string_literal: true

module Vestry
  module Web
    module Contracts
      # Diameters typed one after another, as a caliper calls them out.
      module DiameterRun
        module_function

        # @param text [String] numbers apart by spaces, commas or new lines; in mm, or in inches where
        #   the orchard measures so
        # @return [Array<Float>] mm
        # @raise [Core::BadInput] naming the one that cannot be
        def read(text, units)
          low, high = Core::Rulebook.shipped.value("plausible.scion")
          words = units == "imperial" ? text.scan(%r{\d+\s+\d+/\d+|[^\s;]+}) : text.split(/[\s;]+/)
          words.map { |word| word.delete_suffix(",") }.reject(&:empty?).each_with_index.map do |word, i|
            mm = Core::Measure.parse(word, units: units).mm
            next mm if Core::Near.within?(mm, low, high)

            raise Core::BadInput.new("",
                                     "number #{i + 1}, “#{word}”, is #{Core::Measure.say(mm, units)}; last season's " \
                                     "growth is #{Core::Measure.say(low, units)} " \
                                     "to #{Core::Measure.say(high, units)} thick")
          rescue Core::BadInput => e
            raise e if e.allowed.start_with?("number")

            raise Core::BadInput.new("", "number #{i + 1}, #{e.allowed}")
          end
        end
      end
    end
  end
end
