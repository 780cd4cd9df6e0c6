# frozen_string_literal: true

module Vestry
  module Drawings
    # One stick from the side with its cut for these numbers, as large as the bench has room for.
    class StickProfile < Cuts
      def svg = Template.render("stick_profile", self)
      def width = 330.0
      def height = 470.0
      # Room beside the stick for what is written there.
      def left = 96
      # Where the lowest bud looks away from the face.
      def bud_y = face_top - [px(25), 90].min
    end
  end
end
