# frozen_string_literal: true

module Vestry
  module Drawings
    # A stub's photo laid flat, with the opening that was marked drawn over it.
    class OpeningPhoto
      # @param view [Hash] see Core::Survey::FlatView
      # @param address [String] of the flat photo
      # @param words [String] what it shows
      # @param units [String] metric or imperial, of its scale
      def initialize(view, address, words, units:)
        @units = units
        @view = view
        @address = address
        @words = words
      end

      attr_reader :address, :words

      def svg = Template.render("opening_photo", self)
      def size = @view[:size_px]
      def edge = "#{Stroke.straight(@view[:marks_px])}Z"
      # A scale of ten millimetres, or half an inch.
      def scale_mm = @units == "imperial" ? Core::Measure::INCH / 2 : 10
      def scale_px = scale_mm * Core::Survey::FlatView::PX_PER_MM
      def scale_words = Core::Measure.say(scale_mm, @units)
    end
  end
end
