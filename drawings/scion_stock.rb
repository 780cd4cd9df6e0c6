# frozen_string_literal: true

module Vestry
  module Drawings
    # A worked stub from the side, with its own sticks and what the visits saw: what grows from the sticks, what from
    # the stock below, and the nurse beside it whose shoots stay. What was set into a side stands in that side, with the
    # head above it while that is on.
    class ScionStock
      MIDDLE, HALF, RIM = 150.0, 46.0, 180.0
      # So many stock shoots are drawn for what a visit calls some and many; where none looked, as many as show where
      # they come from.
      SHOOTS = { "none" => 0, "some" => 2, "many" => 5, nil => 3 }.freeze
      # From the stub's bark, one after another: where it leaves and which way it goes.
      PLACES = [[-1, 252], [1, 244], [-1, 284], [1, 276], [-1, 220]].freeze
      # Shoots are drawn to one scale, up to a metre of them.
      SCALE, LONGEST, UNMEASURED = 0.1, 100.0, 55.0
      WORDS = { "rub" => "rub off", "leave" => "leave until it has taken", "keep" => "keep two or three" }.freeze
      LEFT = { "bud" => "leave until it grows", "approach" => "leave until its donor is off" }.freeze
      private_constant :LEFT, :PLACES, :SCALE, :LONGEST, :UNMEASURED

      # What a scion of each kind is called.
      CALLED = Hash.new("stick").merge("bud" => "bud", "approach" => "plant").freeze
      # Where one sits that is set into a side: at its right edge, half way up.
      SEAT_X, SEAT_Y = 198.0, 190.0
      private_constant :CALLED, :SEAT_X, :SEAT_Y

      attr_reader :verdict, :nurse

      # @param faces [Array<Float>] where each stick sits, in degrees from the upper side or from north
      # @param dead [Array<Integer>] numbers of sticks that were found dead
      # @param shoot_mm [Float, nil] the longest, as last measured
      # @param seen [String, nil] none, some or many stock shoots, as last seen
      # @param verdict [String] of Core::Tend::StockShoots
      # @param nurse [String, nil] the tag of a limb that is kept as nurse
      # @param kind [String] of Core::Graft::GraftKind
      # @param head [Boolean] whether the limb above what was set into its side is still on
      # @param grows [Boolean] whether what was set is seen to grow
      def initialize(faces:, dead: [], shoot_mm: nil, seen: nil, verdict: "rub", nurse: nil, kind: "stub", head: false,
                     grows: true)
        @faces = faces
        @kind = kind
        @head = head
        @grows = grows
        @dead = dead
        @shoot_mm = shoot_mm
        @seen = seen
        @verdict = verdict
        @nurse = nurse
      end

      def svg = Template.render("scion_stock", self)
      def side? = @kind != "stub"
      def bud? = @kind == "bud"
      def head? = side? && @head
      def called = CALLED[@kind]
      def width = nurse ? 430 : 300
      def words = verdict == "leave" ? LEFT.fetch(@kind, WORDS["leave"]) : WORDS.fetch(verdict)

      # Each stick with its lines, and its shoot where it lives.
      def sticks
        return [seated] if side?

        xs = places
        xs.each_with_index.map do |x, i|
          dead = verdict == "keep" || @dead.include?(i + 1)
          { number: i + 1, x: x, dead: dead, shoot: dead ? nil : shoot(x, i) }
        end
      end

      # Shoots from the stock, as lines, and whether they were seen or only show where they come from.
      def stock_shoots
        PLACES.first(SHOOTS.fetch(@seen)).map do |side, y|
          x = MIDDLE + side * (HALF + 6)
          { path: "M#{x} #{y}C#{x + side * 24} #{y - 8} #{x + side * 40} #{y - 28} #{x + side * 46} #{y - 58}",
            cross: [x + side * 36, y - 34] }
        end
      end

      def guessed? = @seen.nil?

      def spoken
        return spoken_side if side?

        living = sticks.count { |stick| !stick[:dead] }
        "A stub with #{Spoken.counted(sticks.size, 'stick')}, #{living} living. What grows from a stick is kept; " \
          "shoots from the stock below the cut: #{words}.#{" #{nurse} beside it is a nurse: its shoots stay." if nurse}"
      end

      private

      # What sits in the side: asleep it has no shoot.
      def seated
        dead = verdict == "keep" || @dead.any?
        { number: 1, x: SEAT_X, dead: dead, shoot: (side_shoot if @grows && !dead) }
      end

      def side_shoot
        x, top = SEAT_X + (bud? ? 4 : 26), (bud? ? SEAT_Y - 14 : SEAT_Y - 62)
        y = ->(share) { (top - drawn_length * share).round(1) }
        { path: "M#{x} #{top}C#{x + 8} #{y[0.4]} #{x + 24} #{y[0.6]} #{x + 26} #{y[1.0]}",
          leaf: leaf(x + 12, y[0.45], 1) + leaf(x + 24, y[0.8], -1) }
      end

      def spoken_side
        state = @grows ? "growing" : "not growing yet"
        state = "dead" if sticks.first[:dead]
        "A limb with a #{called} in its side, #{state}; its head is #{head? ? 'on' : 'off'}. Shoots from the stock " \
          "below it: #{words}.#{" #{nurse} beside it is a nurse: its shoots stay." if nurse}"
      end

      # Across the stub as they are seen from the side: sticks are kept apart from each other.
      def places
        order = @faces.each_with_index.sort_by { |face, i| [Math.sin(face * Math::PI / 180), i] }.map(&:last)
        return [MIDDLE] if order.one?

        wide = HALF - 14
        at = order.each_with_index.to_h { |stick, place| [stick, MIDDLE - wide + place * 2 * wide / (order.size - 1)] }
        @faces.each_index.map { |stick| at.fetch(stick).round(1) }
      end

      def shoot(x, i)
        side = left?(x, i) ? -1 : 1
        y = ->(share) { (118 - drawn_length * share).round(1) }
        out = ->(mm) { x + side * mm }
        { path: "M#{x} 118C#{out[3]} #{y[0.4]} #{out[14]} #{y[0.6]} #{out[12]} #{y[1.0]}",
          leaf: leaf(out[6], y[0.45], side) + leaf(out[11], y[0.8], -side) }
      end

      def left?(x, i) = x < MIDDLE || (x == MIDDLE && i.even?)
      def drawn_length = @shoot_mm ? (@shoot_mm * SCALE).clamp(14.0, LONGEST) : UNMEASURED

      def leaf(x, y, side)
        "M#{x.round(1)} #{y.round(1)}q#{side * 18} -2 #{side * 24} -16q#{side * -18} -4 #{side * -24} 16z"
      end
    end
  end
end
