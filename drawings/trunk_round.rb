# frozen_string_literal: true

module Vestry
  module Drawings
    # The trunk cut across at its wound, north up: live bark as a ring, the bare stretches open, and
    # each scion bowed outside its place.
    class TrunkRound
      SIZE = 264.0
      ROUND = 76.0

      def initialize(label, margins:, places: [], wind_from: nil)
        @label = label
        @shape = Core::Repair::WoundShape.new(margins)
        @places = places
        @wind_from = wind_from
      end

      def svg = Template.render("trunk_round", self)

      def size = SIZE
      def middle = SIZE / 2
      def radius = ROUND
      def title = "The trunk of #{@label} at the wound, from above"
      def description
        "#{(@shape.girdled_share * 100).round} per cent of the girth is " \
        "bare#{"; #{@places.size} #{set_in}#{'s' unless @places.one?}" if @places.any?}."
      end
      def set_in = @places.any? { |place| place[:stock] } ? "stock" : "scion"
      def compass
        { "N" => 0, "E" => 90, "S" => 180, "W" => 270 }.map { |name, deg| { name: name, at: around(deg, middle - 10) } }
      end

      # Live bark, as arcs between the open stretches.
      def bark
        return [] if @shape.ring?
        return [arc(0, 359.9)] if @shape.runs.empty?

        runs = @shape.runs
        runs.each_with_index.map { |(_, ends), i| arc(ends, i + 1 < runs.size ? runs[i + 1][0] : runs[0][0] + 360) }
      end

      def bare = @shape.ring? ? [arc(0, 359.9)] : @shape.runs.map { |from, to| arc(from, to) }

      def scions
        @places.map do |place|
          x, y = around(place[:bearing_deg], ROUND + 13)
          tx, ty = around(place[:bearing_deg], ROUND - 18)
          { number: place[:number], state: place[:row]&.set_on ? place[:fate] || "set" : "planned", x: x, y: y, tx: tx,
            ty: ty + 4 }
        end
      end

      private

      def around(deg, radius)
        Core::Survey::Figure.radians(deg).then { |r| [middle + Math.sin(r) * radius, middle - Math.cos(r) * radius] }
      end

      def arc(from, to)
        a, b = around(from, ROUND), around(to, ROUND)
        "M#{Stroke.round(a[0])} #{Stroke.round(a[1])}A#{ROUND} #{ROUND} 0 #{to - from > 180 ? 1 : 0} " \
        "1 #{Stroke.round(b[0])} #{Stroke.round(b[1])}"
      end
    end
  end
end
