# frozen_string_literal: true

module Vestry
  module Drawings
    # A graft as it is found: what its buds, its callus, its bark and its wrap look like.
    class PracticeReadGraft
      WIDTH, HEIGHT = 420, 520
      BUDS = { "asleep" => "asleep", "swelling" => "swelling", "leafing" => "in leaf", "dead" => "dead" }.freeze
      private_constant :BUDS

      # @param exercise [Hash] as Core::Practice::ReadGraft shows it
      # @param result [Hash, nil] what the answer came to
      def initialize(exercise, result: nil, **)
        @exercise = exercise
        @result = result
      end

      def svg = Template.render("practice_read_graft", self)
      def judged? = !@result.nil?
      def width = WIDTH
      def height = HEIGHT
      def buds = @exercise[:seen][:buds]
      def callus = @exercise[:seen][:callus]
      def bark = @exercise[:seen][:bark]
      def wrap = @exercise[:wrap]

      # What is written beside each part.
      def words
        [["buds", 110, BUDS.fetch(buds)], ["bark", 190, bark || "not looked at"],
         ["callus", 270, callus ? "#{callus == 'none' ? 'none' : callus == 'full' ? 'all round' : 'some'}" : "hidden"],
         ["tape", 370, wrap]]
      end

      def spoken = words.map { |part, _, said| "#{part} #{said}" }.join(", ")
    end
  end
end
