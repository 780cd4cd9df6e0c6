# frozen_string_literal: true

module Vestry
  module Drawings
    # A year's shoot laid down, to scale along it: the older wood it came with, its buds, its tip; with the stretch that
    # is marked, the buds that are named and the cuts between sticks.
    class PracticeShoot
      LEFT, AXIS, HEIGHT = 24.0, 105.0, 220
      THICK, THIN = 15.0, 5.0
      BUDS = { "leaf" => "q-4 -9 1 -17q5 8 -1 17z", "fat" => "q-11 -8 -4 -19q4 -4 8 0q8 11 -4 19z",
               "blind" => "m-4 -2h8" }.freeze
      private_constant :AXIS, :THICK, :THIN

      attr_reader :exercise

      # @param exercise [Hash] as Core::Practice::Shoot shows it
      # @param answer [Hash] +from_mm+, +to_mm+, +buds+ and +cuts+
      # @param result [Hash, nil] what it came to
      def initialize(exercise, result: nil, **answer)
        @exercise = exercise
        @answer = { from_mm: 0.0, to_mm: exercise[:length_mm].to_f, buds: [], cuts: [] }.merge(answer)
        @result = result
      end

      def svg = Template.render("practice_shoot", self)
      def judged? = !@result.nil?
      def width = (@exercise[:length_mm] + LEFT * 2).round
      def height = HEIGHT
      def x(mm) = Stroke.round(LEFT + mm)
      def from = @answer[:from_mm]
      def to = @answer[:to_mm]
      def cuts = @answer[:cuts]
      def axis = AXIS

      def wood = stretch(0, @exercise[:length_mm])
      def older = stretch(0, @exercise[:ring_at_mm])
      def damage = @exercise[:damage] && stretch(*@exercise[:damage])

      # The ring of scars where this year's growth began: fainter the harder it is.
      def ring
        [-4, 0, 4].map { |off| across(@exercise[:ring_at_mm] + off) }.join
      end

      def ring_ink = (1 - 0.65 * @exercise[:faint]).round(2)

      # Where the tip turns green, over a stretch that is longer the harder it is.
      def green_from = @exercise[:green_from_mm] / @exercise[:length_mm].to_f
      def green_over = (10 + 50 * @exercise[:faint]) / @exercise[:length_mm]

      def buds
        @exercise[:nodes].map do |node|
          { id: node[:id], at: place(node), turn: node[:side].positive? ? 180 : 0, shapes: shapes(node[:is]),
            named: @answer[:buds].include?(node[:id]), state: state(node), is: node[:is] }
        end
      end

      # The best stretch and its cuts, once it is told.
      def best = judged? ? @result[:best] : nil

      def spoken
        "A shoot #{@exercise[:length_mm]} mm long with #{@exercise[:nodes].size} nodes, from its cut end to its tip."
      end

      private

      def half(mm) = THICK + (THIN - THICK) * mm / @exercise[:length_mm]
      def place(node) = [x(node[:at_mm]), Stroke.round(AXIS - half(node[:at_mm]) * (node[:side].positive? ? -1 : 1))]
      def across(mm) = "M#{x(mm)} #{Stroke.round(AXIS - half(mm))}v#{Stroke.round(half(mm) * 2)}"

      def stretch(from, to)
        marks = [from, to].map { |mm| [LEFT + mm, half(mm)] }
        (low, thick), (high, thin) = marks
        "#{Stroke.straight([[low, AXIS - thick], [high, AXIS - thin], [high, AXIS + thin], [low, AXIS + thick]])}Z"
      end

      def shapes(kind)
        case kind
        when "pair" then [["leaf", -4], ["fat", 5]]
        when "triple" then [["fat", -9], ["leaf", 0], ["fat", 9]]
        else [[kind, 0]]
        end
      end

      def state(node)
        return nil unless judged?

        grows = best[:buds].include?(node[:id])
        named = @answer[:buds].include?(node[:id])
        return "missed" if grows && !named

        wrong = @result[:feedback].any? { |each| each[:nodes]&.include?(node[:id]) }
        wrong ? "killed" : nil
      end
    end
  end
end
