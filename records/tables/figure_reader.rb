# frozen_string_literal: true

module Vestry
  module Records
    # A cell of a table from elsewhere as it is kept, by its layout.
    class FigureReader
      # A cell that cannot be read, and why.
      class UnreadCell < StandardError; end

      # A day written in an order that has to be known: 3/4/2026, 03.04.26.
      ORDERED = %r{\A\s*(\d{1,2})[./-](\d{1,2})[./-](\d{4}|\d{2})(?=\z|[\sT,])}
      COMPACT = /\A\s*\d{8}\s*\z/
      NAMED = /\A\s*(\d{1,2})[\s.-]*([[:alpha:]]{3,})[\s.,-]*(\d{4}|\d{2})(?=\z|[\sT,])/
      CLOCK = /(\d{1,2}):(\d{2})(?::\d{2}(?:\.\d+)?)?\s*([AaPp])?\.?[Mm]?\.?/
      TREE = %r{\A\s*([[:alpha:]]{1,8})[\s./-]*(\d{1,6})\s*\z}
      LIMB = %r{\A\s*([[:alpha:]]{1,8}[\s.-]?\d{1,6})[\s./:-]*([[:alpha:]][[:alnum:]]{0,11})\s*\z}
      # How many mm each is that a length is kept in; and a length that is written in parts, or in feet and inches.
      LENGTHS = { "length_mm" => 1, "length_m" => 1000.0 }.freeze
      PARTS = %r{\d\s*/\s*\d|[¼½¾⅛⅜⅝⅞⅓⅔]|\d\s*(?:ft|feet|foot|['′’])\.?\s*\d}i
      # A unit behind a figure, in letters or as a sign.
      UNIT = %r{[[:alpha:]"″”'′’°/]+\z}
      private_constant :NAMED, :CLOCK, :LENGTHS, :PARTS

      # @param comma [Boolean] whether a comma is a number's point, and a point parts its thousands
      def initialize(layout, comma:)
        @layout = layout
        @comma = comma
      end

      # @return [String, nil] nil where it is not known
      # @raise [UnreadCell]
      def read(name, cell)
        said = cell.to_s.strip
        field = @layout.field(name)
        return nil if TableWords.unknown?(said, field.measure)

        send(:"read_#{field.type}", name, said)
      end

      private

      def read_text(_name, said) = said
      def read_word(name, said)
        @layout.word(name, said) ||
          raise(UnreadCell, "“#{said[0, 40]}” is none of #{@layout.field(name).choices.join(', ')}")
      end

      def read_whole(_name, said)
        Core::Values.number(pointed(said))&.then { |number| number.to_i.to_s if number == number.round } ||
          raise(UnreadCell, "“#{said[0, 30]}” is not a whole number")
      end

      def read_number(name, said)
        measure = @layout.field(name).measure
        return length(name, said) if LENGTHS.key?(measure) && said.match?(PARTS)

        number, own = figure(said)
        return plain(number) unless measure

        unit = own ? TableWords.unit(own) : @layout.columns[@layout.place(name)]["unit"]
        worth = TableWords.worth(measure)[unit] or raise UnreadCell, "“#{said[0, 30]}” is in no unit that is known"
        plain((number + TableWords.before(unit)) * worth)
      end

      # @return [Array(Float, String), Array(Float, nil)] a number, and the unit behind it
      def figure(said)
        digits, own = said.match(/\A([-+−]?[\d.,\s']*\d)\s*(#{UNIT}|\z)/)&.captures
        number = digits && Core::Values.number(pointed(digits)) or raise UnreadCell, "“#{said[0, 30]}” is not a number"
        [number, (own unless own.empty?)]
      end

      # A length in parts: 8 3/4, 30-1/2, 4' 6".
      def length(name, said)
        own = said.match?(/[[:alpha:]"″”'′’]/)
        typed = said.gsub(/(?<=\d)-(?=\d+\/\d)/, " ")
        mm = Core::Measure.parse(own ? typed : "#{typed} #{@layout.unit(name)}").mm
        plain(mm / LENGTHS.fetch(@layout.field(name).measure))
      rescue Core::BadInput => e
        raise UnreadCell, e.allowed
      end

      def read_bearing(_name, said)
        Core::Survey::Place.bearing(pointed(said))&.then { |degrees| plain(degrees) } ||
          raise(UnreadCell, "“#{said[0, 30]}” is not a direction such as NE or 45")
      end

      def read_day(_name, said) = day(said).iso8601

      def read_clock(_name, said)
        hour, minute, half = said.match(/\A#{CLOCK}\z/)&.captures
        hour ||= said[/\A(\d{1,2})\s*(?:h|uhr)?\z/i, 1]
        hour = hour.to_i % 12 + (half.downcase == "p" ? 12 : 0) if hour && half
        raise UnreadCell, "“#{said[0, 30]}” is not a time of day" unless hour && hour.to_i < 24 && minute.to_i < 60

        format("%<hour>02d:%<minute>02d", hour: hour.to_i, minute: minute.to_i)
      end

      def read_moment(name, said)
        return said if Core::Values.moment(said)

        clock = said[CLOCK] or raise UnreadCell, "“#{said[0, 30]}” is not a day and a time"
        "#{day(said).iso8601} #{read_clock(name, clock.strip)}"
      end

      def day(said)
        plain = said[%r{\A\s*\d{4}[-/.]\d{2}[-/.]\d{2}(?=\z|[\sT])}]&.tr("/.", "-")
        Core::Values.day(plain || compact(said) || ordered(said) || named(said)) ||
          raise(UnreadCell, "“#{said[0, 30]}” is not a day, or not in the order that was chosen")
      end

      # 20260514, where days are said to begin with their year.
      def compact(said)
        "#{said[0, 4]}-#{said[4, 2]}-#{said[6, 2]}" if said.match?(COMPACT) && @layout.order == "ymd"
      end

      def ordered(said)
        one, two, year = ORDERED.match(said)&.captures
        return unless one

        date, month = @layout.order == "mdy" ? [two, one] : [one, two]
        raise UnreadCell, "“#{said[0, 30]}”: the order of its days was not chosen" unless @layout.order

        written(year, month.to_i, date)
      end

      def named(said)
        date, month, year = NAMED.match(said)&.captures
        month = month && TableWords.month(month)
        written(year, month, date) if month
      end

      # A year of two digits is one of this century.
      def written(year, month, date)
        year = "20#{year}" if year.size == 2
        format("%<year>s-%<month>02d-%<date>02d", year: year, month: month, date: date.to_i)
      end

      # A number as others write it, with a point before its decimals alone.
      def pointed(said)
        plain = said.delete(" \u00A0'")
        marks = plain.scan(/[.,]/)
        return plain if marks.empty?
        # Of two kinds the last is the point; many of one kind part thousands.
        return plain.delete(marks.first).tr(",", ".") if marks.uniq.size == 2 && marks.count(marks.last) == 1
        return plain.delete(marks.first) if marks.size > 1 || thousands?(plain, marks.first)

        plain.tr(",", ".")
      end

      def thousands?(plain, mark) = mark == (@comma ? "." : ",") && plain.match?(/\A[-+]?[1-9]\d{0,2}[.,]\d{3}\z/)

      def plain(number) = format("%.6f", number).sub(/\.?0+\z/, "").then { |text| text == "-0" ? "0" : text }
    end
  end
end
