# frozen_string_literal: true

module Vestry
  module Drawings
    # A graft's season in one line, from its day to leaf fall: what was done and seen, what is due and what comes.
    class GraftStrip
      HEIGHT = 84
      # So many things are named. A letter takes up about so much of the width, in per cent.
      MOST, LETTER = 9, 0.78
      Event = Struct.new(:on, :words, :kind, keyword_init: true)

      # @param events [Array<Event>] kind is done, seen, due or ahead
      # @param knit [Array(Date, Date)] between which days callus is likely to knit
      def initialize(from, to, today:, events:, knit: nil)
        @from = from
        @to = [to, from + 30].max
        @today = today
        @events = events.select { |each| each.on.between?(@from, @to) }.sort_by(&:on)
        @knit = knit
      end

      def svg = Template.render("graft_strip", self)
      def height = HEIGHT
      def label
        told = @events.map { |each| "#{spoken_day(each.on)} #{each.words}" }
        "What was done and is due, from #{spoken_day(@from)} to #{spoken_day(@to)}: " \
          "#{told.empty? ? 'nothing' : told.join('; ')}"
      end
      def today_at = place(@today)
      def knit = @knit && [place(@knit[0]), [place(@knit[1]) - place(@knit[0]), 0.5].max]

      # In order; those that find no room for their words are dots alone.
      def marks
        ends = { above: -9.0, below: -9.0 }
        @events.first(MOST * 3).map do |event|
          at, words = place(event.on), "#{event.words} #{day(event.on)}"
          from, to, anchor = span(at, words.size * LETTER)
          side = ends.keys.find { |each| from > ends[each] + 1.2 }
          ends[side] = to if side
          { at: at, kind: event.kind, side: side, words: words, anchor: anchor }
        end
      end

      private

      # Where words beside a place begin and end, kept within the sheet.
      def span(at, wide)
        return [at, at + wide, "start"] if at < wide / 2
        return [at - wide, at, "end"] if at > 100 - wide / 2

        [at - wide / 2, at + wide / 2, "middle"]
      end

      def day(date) = date.strftime("%-d %b")
      # With its year, where the strip runs over more than one.
      def spoken_day(date) = date.strftime(@from.year == @to.year ? "%-d %b" : "%-d %b %Y")
      def place(date) = ((date - @from).to_f / (@to - @from) * 100).clamp(0, 100).round(2)
    end
  end
end
