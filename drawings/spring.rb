# frozen_string_literal: true

module Vestry
  module Drawings
    # The spring of a whole orchard on one axis of time: for each kind, from when its bark may slip, when it surely does
    # and when it closes; under it the weather as one ribbon of temperature, with rain and gusts. Places are shares of
    # the width, so that lettering keeps its size.
    class Spring
      # What is said of a kind of tree; days.
      Kind = Struct.new(:name, :from, :even, :sure, :closes, :slips, keyword_init: true)
      HEAD, ROW, RIBBON, FOOT = 20, 36, 96, 18
      COLDEST, HOTTEST = -8.0, 34.0
      # Gusts that move the tree one stands in.
      GUST = 10.0

      # @param kinds [Array<Kind>]
      # @param days [Array<Hash>] +date+, +min_c+, +max_c+, +rain_mm+, +gust_ms+, measured and forecast
      # @param units [String]
      def initialize(from, to, today:, kinds:, days:, units:)
        @from = from
        @to = to
        @today = today
        @kinds = kinds
        @days = days.select { |day| day[:date].between?(from, to) }
        @units = units
      end

      def svg = Template.render("spring", self)
      def height = HEAD + ROW * @kinds.size + (weather? ? RIBBON + FOOT : 4)
      def weather? = @days.size > 1
      def today_at = place(@today)
      def ribbon_top = HEAD + ROW * @kinds.size + 6
      def label
        return "The weather of each day from #{@from.strftime('%-d %B')} to #{@to.strftime('%-d %B')}" if @kinds.empty?

        "When bark slips: #{rows.map { |row| row[:spoken] }.join('; ')}"
      end

      # Of many months each is written short.
      def months
        name = @to - @from > 190 ? "%b" : "%B"
        (@from..@to).select { |day| day.day == 1 }.map { |day| { at: place(day), name: day.strftime(name) } }
      end

      def rows
        @kinds.each_with_index.map do |kind, i|
          { y: HEAD + ROW * i, name: kind.name, words: words(kind), spoken: "#{kind.name}: #{words(kind)}",
            fan: kind.slips ? nil : part(kind.from, kind.sure), even: kind.slips ? nil : place(kind.even),
            open: open = part(kind.slips ? kind.from : kind.sure, kind.closes),
            at: written_at(open ? open[0] : place(kind.closes), kind) }
        end
      end

      # Where words begin on their bar, as a share of the width, where they end before the edge of the narrowest page;
      # else they end at the edge.
      ROOM = { true => 60, false => 28 }.freeze
      def written_at(from, kind) = from <= ROOM.fetch(kind.slips) ? [from, 8, "start"] : [100, -6, "end"]
      private :written_at

      # Temperature as a band over the days, in a box of 1000 by RIBBON.
      def band
        top = @days.map { |day| "#{across(day)} #{up(day[:max_c])}" }
        low = @days.reverse.map { |day| "#{across(day)} #{up(day[:min_c])}" }
        "M#{[*top, *low].join('L')}Z"
      end

      def rain
        @days.select { |day| day[:rain_mm].to_f >= 0.5 }.map do |day|
          { at: place(day[:date]), long: [day[:rain_mm] * 1.6, 46].min.round(1) }
        end
      end

      def gusts
        @days.select { |day| day[:gust_ms].to_f >= GUST }.map { |day| { at: place(day[:date]) } }
      end

      # Level lines of the ribbon.
      def levels
        [0, 10, 20, 30].map do |c|
          { y: ribbon_top + up(c), text: Core::Measure.say_warmth(c, @units) }
        end
      end

      private

      def words(kind)
        closes = kind.closes.strftime("%-d %b")
        return "closed about #{closes}" if kind.slips && kind.closes < @today
        return "slips, closes #{closes}" if kind.slips

        "from #{kind.from.strftime('%-d %b')}, likely by #{kind.even.strftime('%-d %b')}, closes #{closes}"
      end

      def part(from, to)
        from, to = [from, @from].max, [to, @to].min
        to > from ? [place(from), (place(to) - place(from)).round(2)] : nil
      end

      def place(day) = ((day - @from).to_f / (@to - @from) * 100).clamp(0, 100).round(2)
      def across(day) = ((day[:date] - @from).to_f / (@to - @from) * 1000).round(1)
      def up(celsius) = (RIBBON - (celsius.clamp(COLDEST, HOTTEST) - COLDEST) / (HOTTEST - COLDEST) * RIBBON).round(1)
    end
  end
end
