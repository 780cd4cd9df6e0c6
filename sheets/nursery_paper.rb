# frozen_string_literal: true

module Vestry
  module Sheets
    # An order of wood on paper: what, how many, what size, and by when.
    class NurseryPaper
      # @param promises [Array<Records::WoodPromise>] of one source
      # @param order [Records::NurseryOrder]
      # @param words [#counted, #whole_day, #length, #thickness] how figures are said
      def initialize(promises, order, orchard, words, size: "a4")
        @promises = promises
        @order = order
        @orchard = orchard
        @words = words
        @size = size
      end

      def pdf
        Paper.print(@size, title: "Scion wood for #{@orchard.name}") do |page|
          page.text("Scion wood for #{@orchard.name}", size: 18, style: :bold)
          page.text("To #{@promises.map(&:source).uniq.join(', ')}.   Ordered " \
                    "#{@words.whole_day(first(:ordered_on))}; wanted by " \
                    "#{@words.whole_day(first(:wanted_by) || @order.wanted_by)}, fully asleep.")
          page.move_down 10
          @promises.each { |promise| line(page, promise) }
          page.move_down 10
          how(page)
        end
      end

      private

      # How it is to be cut and sent, and whose law it falls under.
      def how(page)
        page.text("Last summer's shoots, cut while they sleep, each stick " \
                  "#{@words.length(@order.order.stick_mm)} long, straight, with sound buds; damp and cool on the " \
                  "way, each variety with its name.")
        caution = @orchard.rulebook.book("cautions")["wood-origin"]
        page.move_down 8
        page.text("<b>#{caution['title']}.</b> #{caution['text']}", inline_format: true, size: 9)
      end

      def first(column) = @promises.filter_map(&column).min

      def line(page, promise)
        page.text("[  ]  <b>#{promise.variety.name}</b>: #{@words.counted(promise.sticks, 'stick')}, " \
                  "#{size(promise.variety)}", inline_format: true, size: 12)
      end

      def size(variety)
        sized = @order.order.lines.find { |each| each.variety.id == variety.id }
        return "pencil thick" unless sized&.diameters&.any?

        low, high = sized.diameters.map(&:from_mm).min, sized.diameters.map(&:to_mm).max
        "#{@words.thickness(low)} to #{@words.thickness(high)} thick at the foot"
      end
    end
  end
end
