# frozen_string_literal: true

module Vestry
  module Core
    # A length as a person says it: typed any way, kept as typed, held in millimetres.
    #
    #   Measure.parse("22 cm").mm                       # => 220.0
    #   Measure.parse("8 3/4", units: "imperial").mm    # => 222.25
    #   Measure.say(222.25, "imperial")                 # => "8 3/4 in"
    class Measure
      UNITS = %w[metric imperial].freeze
      INCH = 25.4
      FOOT = 12 * INCH
      # In metres a second.
      MILE_AN_HOUR = 0.44704
      # What each way of writing a unit is worth in mm.
      WORTH = {
        "mm" => 1.0, "millimetre" => 1.0, "millimetres" => 1.0, "cm" => 10.0, "centimetre" => 10.0,
        "centimetres" => 10.0,
        "m" => 1000.0, "metre" => 1000.0, "metres" => 1000.0,
        "in" => INCH, "inch" => INCH, "inches" => INCH, '"' => INCH, "″" => INCH, "”" => INCH,
        "ft" => 12 * INCH, "foot" => 12 * INCH, "feet" => 12 * INCH, "'" => 12 * INCH, "′" => 12 * INCH,
        "’" => 12 * INCH
      }.freeze
      GLYPHS = { "¼" => "1/4", "½" => "1/2", "¾" => "3/4", "⅛" => "1/8", "⅜" => "3/8", "⅝" => "5/8", "⅞" => "7/8",
                 "⅓" => "1/3", "⅔" => "2/3" }.freeze
      NUMBER = %r{(\d+(?:[.,]\d+)?\s+\d+/\d+|\d+/\d+|\d+(?:[.,]\d+)?|[.,]\d+)}
      PART = /\G\s*#{NUMBER}\s*([a-z]+|["'″”′’])?/
      EXAMPLES = { "metric" => "220, 22 cm or 1.3 m", "imperial" => %(8 3/4, 8¾" or 4' 2") }.freeze
      # The same for what is thin, as a stick or bark is, and up to how many mm that is.
      EXAMPLES_OF_THIN = { "metric" => "8, 9.5 or 1.2 cm", "imperial" => %(3/8, 5/16" or 0.4) }.freeze
      THIN_TO = 80

      attr_reader :mm, :typed

      # @param text [String] one or more numbers with units; a number without one is in mm
      #   (metric) or inches (imperial)
      # @param units [String] the orchard's: metric or imperial
      # @param most [Numeric] how many mm it may be: what is thin has examples of its own
      # @return [Measure]
      # @raise [BadInput] when it cannot be read as a length
      def self.parse(text, units: "metric", field: :measure, most: Float::INFINITY)
        new(read(text.to_s, units), text.to_s.strip)
      rescue Unread => e
        examples = most <= THIN_TO ? EXAMPLES_OF_THIN : EXAMPLES
        raise BadInput.new(field, "#{e.message}; write it as #{examples.fetch(units)}")
      end

      Unread = Class.new(StandardError)
      private_constant :Unread

      # A bare number as people write it, with a fraction if it has one: "1 1/2", "½", "2,5".
      #
      # @return [Float, nil] nil for what is none
      def self.figure(text)
        text.to_s.match?(/[[:alpha:]"'″”′’]/) ? nil : read(text.to_s, "metric")
      rescue Unread
        nil
      end

      def self.read(text, units)
        sign, plain = signed(text)
        total = 0.0
        position = 0
        bare = units == "imperial" ? INCH : 1.0
        last = nil
        until plain[position..].to_s.strip.empty?
          part = PART.match(plain, position)
          # A number without a unit stands alone, or after feet as inches.
          refuse(text) if part.nil? || (last && (last[2].nil? || (part[2].nil? && bare != INCH)))
          worth = part[2] ? WORTH[part[2]] : bare
          refuse(text) unless worth
          total += number(part[1], text) * worth
          bare = INCH if worth == 12 * INCH
          last = part
          position = part.end(0)
        end
        refuse(text) if position.zero?
        sign * possible(total, text).round(6)
      end
      private_class_method :read

      def self.possible(total, text)
        return total if total <= Contract::FURTHEST_NUMBER

        raise Unread, "“#{text.strip[0, 40]}” is longer than anything here"
      end
      private_class_method :possible

      # The sign, and the rest with its fractions written out.
      def self.signed(text)
        plain = text.strip.downcase
        sign = plain.delete_prefix!("-") ? -1 : 1
        GLYPHS.each { |glyph, fraction| plain = plain.gsub(glyph, " #{fraction} ") }
        [sign, plain.gsub(/(\d)\s+(?=\d+\/\d+)/, '\1 ').strip]
      end
      private_class_method :signed

      def self.number(words, text)
        whole, fraction = words.include?("/") && words.include?(" ") ? words.split(/\s+/, 2) : [words, nil]
        return ratio(whole, text) if whole.include?("/")

        whole.tr(",", ".").to_f + (fraction ? ratio(fraction, text) : 0)
      end
      private_class_method :number

      def self.ratio(words, text)
        over, under = words.split("/").map(&:to_f)
        refuse(text) if under.zero?
        over / under
      end
      private_class_method :ratio

      def self.refuse(text)
        raise Unread, text.strip.empty? ? "nothing was typed" : "“#{text.strip[0, 40]}” is not a length"
      end
      private_class_method :refuse

      # A length in words: millimetres, metres from a metre up; or inches in eighths, below one in sixteenths, feet
      # from three feet up.
      #
      # @param mm [Numeric, nil]
      # @return [String]
      def self.say(mm, units = "metric")
        return "–" if mm.nil?
        return say_imperial(mm.to_f) if units == "imperial"

        mm.abs >= 1000 ? "#{format('%.2f', mm / 1000.0)} m" : "#{mm.round} mm"
      end

      # How thick a limb is, as it was measured: by a tape round it, or across both ways.
      #
      # @param limb [#[]] with +:girth_mm+, or +:wide_mm+ and +:narrow_mm+
      # @return [String] such as "220 mm round"
      def self.say_thickness(limb, units = "metric")
        return "#{say(limb[:girth_mm], units)} round" if limb[:girth_mm]

        "#{[limb[:wide_mm], limb[:narrow_mm]].map { |mm| say(mm, units) }.uniq.join(' × ')} across"
      end

      # A height or a way over ground, in whole metres or feet.
      def self.say_metres(metres, units)
        units == "imperial" ? "#{(metres * 1000 / FOOT).round} ft" : "#{metres.round} m"
      end

      # The same to the tenth, as it can be typed again.
      def self.say_way(metres, units)
        return "#{format('%g', metres.round(2))} m" unless units == "imperial"

        "#{format('%g', (metres * 1000 / FOOT).round(1))} ft"
      end

      # A weight of fruit: kilograms, or pounds to the tenth.
      #
      # @param kilos [Numeric]
      def self.say_crop(kilos, units)
        units == "imperial" ? "#{format('%g', (kilos / Values::POUND_KG).round(1))} lb" : "#{format('%g', kilos)} kg"
      end

      # A length that may be finer than a sixteenth of an inch, which is said in parts of a hundred or a thousand then.
      #
      # @param mm [Numeric]
      def self.say_fine(mm, units)
        return say(mm, units) unless units == "imperial" && mm.nonzero? && mm.abs < INCH / 16

        inches = mm / INCH
        "#{format('%g', inches.round(inches.abs < 0.01 ? 3 : 2))} in"
      end

      # A light weight: whole grams, or ounces to the tenth.
      #
      # @param grams [Numeric]
      def self.say_grams(grams, units)
        units == "imperial" ? "#{format('%g', (grams / Values::OUNCE_G).round(1))} oz" : "#{grams.round} g"
      end

      # A length that is held to a range as it is said: its ends may be typed as they read.
      #
      # @return [Numeric, nil] mm within the range; nil where it is outside
      def self.within(mm, low, high, units)
        held = mm.clamp(low, high)
        held if Near.equal?(held, mm) || say(held, units) == say(mm, units)
      end

      # A length that nobody measured so finely: in whole inches, or as it is in mm.
      def self.say_about(mm, units)
        say(units == "imperial" ? (mm / INCH).round * INCH : mm, units)
      end

      # A mark on a scale, in the one unit of all its marks: mm, or metres where it is a metre long or more; inches or
      # feet.
      #
      # @param most [Numeric] mm, the last mark's
      # @return [String]
      def self.say_mark(mm, units, most:)
        return "0" if mm.zero?
        return most < 1000 ? "#{mm.round} mm" : "#{format('%g', (mm / 1000.0).round(2))} m" if units == "metric"

        feet = (mm / FOOT).round(6)
        most >= 3 * FOOT && feet == feet.round ? "#{feet.round} ft" : say_about(mm, units)
      end

      # What a blade takes off: to a tenth of a millimetre, or to a 32nd of an inch.
      #
      # @return [String]
      def self.say_thin(mm, units)
        return "#{format('%.1f', mm)} mm" unless units == "imperial"

        say_inches(mm, BLADE)
      end

      # A length in inches and their parts alone.
      #
      # @param parts [Integer] of an inch, such as 32
      # @return [String]
      def self.say_inches(mm, parts)
        whole, rest = (mm.abs / INCH * parts).round.divmod(parts)
        "#{inches_and(whole, Rational(rest, parts))} in"
      end

      # How many degrees of a thermometer there are to one of Celsius, and where its scale begins.
      DEGREES = { "metric" => [1, 0], "imperial" => [1.8, 32] }.freeze
      private_constant :DEGREES

      # @param celsius [Numeric]
      # @param places [Integer, nil] decimals of Celsius; nil as many as it has
      # @return [String] "6 °C", or whole degrees Fahrenheit
      def self.say_warmth(celsius, units, places: nil)
        return "#{(celsius * DEGREES["imperial"][0] + DEGREES["imperial"][1]).round} °F" if units == "imperial"

        "#{places ? format("%.#{places}f", celsius) : format('%g', celsius)} °C"
      end

      # Degrees summed over days or hours.
      #
      # @return [Integer] of Celsius, or of Fahrenheit
      def self.degrees_summed(sum, units) = (sum.to_f * DEGREES.fetch(units)[0]).round

      # @param ms [Float] metres a second
      # @return [String] whole metres a second, or miles an hour
      def self.say_wind(ms, units)
        units == "imperial" ? "#{(ms / MILE_AN_HOUR).round} mph" : "#{ms.round} m/s"
      end

      # Parts of an inch: what is thinner than one is told by a calliper, the rest by a tape, and a shaving finer yet.
      THIN, TAPE, BLADE = 16, 8, 32
      private_constant :THIN, :TAPE, :BLADE

      def self.say_imperial(mm)
        parts = mm.abs < INCH ? THIN : TAPE
        whole = (mm.abs / INCH * parts).round
        feet, whole = whole >= 36 * parts ? whole.divmod(12 * parts) : [0, whole]
        inches, rest = whole.divmod(parts)
        said = [("#{feet} ft" if feet.positive?)]
        said << "#{inches_and(inches, Rational(rest, parts))} in" if feet.zero? || whole.positive?
        "#{'-' if mm.negative?}#{said.compact.join(' ')}"
      end

      def self.inches_and(inches, rest)
        return inches.to_s if rest.zero?

        "#{"#{inches} " if inches.positive?}#{rest.numerator}/#{rest.denominator}"
      end
      private_class_method :inches_and
      private_class_method :say_imperial

      def initialize(mm, typed)
        @mm = mm
        @typed = typed
        freeze
      end

      # In the units asked for, as a person would read it off a tape.
      def say(units = "metric") = Measure.say(mm, units)
    end
  end
end
