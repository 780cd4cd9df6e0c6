# frozen_string_literal: true

module Vestry
  module Sheets
    # A tree on one page: its drawing, what each limb carries and since when, and a code that leads to it.
    class TreePaper
      MOST_LINES = 26
      CODE = 70
      private_constant :MOST_LINES, :CODE

      # @param card [Records::TreeCard]
      # @param words [#say_tree_line, #species_name, #length, #whole_day] how things are said
      # @param address [String, nil] where the code leads
      def initialize(card, words, today:, address: nil, size: "a4")
        @card = card
        @tree = card.tree
        @words = words
        @today = today
        @address = address
        @size = size
      end

      def pdf
        Paper.print(@size, title: "#{@tree.orchard.name}, #{@tree.label}") do |page|
          heading(page)
          top = page.cursor - 6
          high = TreePicture.draw(page, @tree, Drawings::DrawnLimb.all(@tree, planning: planning), at: [0, top],
                                  wide: page.bounds.width, high: picture_high(top))
          page.move_cursor_to(top - high - 10)
          limbs(page)
          told = "#{@tree.orchard.name}, as on #{@words.whole_day(@today)}   #{@tree.code}"
          page.draw_text(told, at: [0, -14], size: 8)
        end
      end

      private

      def planning = @tree.orchard.season_to_plan(@today)

      # What its limbs leave of the page, within bounds.
      def picture_high(room) = (room - 40 - [@card.lines.size, MOST_LINES].min * 15).clamp(220, 460)

      def heading(page)
        room = page.bounds.width - (@address ? CODE + 12 : 0)
        if @address
          Labels.code(page, @address, page.bounds.right - CODE, page.bounds.top, CODE)
        end
        page.text_box("#{@tree.label}  #{@tree.variety&.name}", at: [0, page.cursor], width: room, height: 28, size: 22,
                                                               style: :bold, overflow: :shrink_to_fit)
        page.move_down 30
        page.text_box(facts.join(", "), at: [0, page.cursor], width: room, height: 32, overflow: :shrink_to_fit)
        page.move_down 38
      end

      def facts
        [@words.species_name(@tree.species), @tree.form.tr("-", " "), ("on #{@tree.rootstock}" if @tree.rootstock),
         ("planted #{@tree.planted_year}" if @tree.planted_year),
         ("#{Core::Measure.say(@tree.height_mm, @tree.orchard.units)} high" if @tree.height_mm)].compact
      end

      # In as many columns as they need, set smaller where they are many; what cannot stand is told.
      def limbs(page)
        lines = @card.lines
        shown = lines.first(MOST_LINES * 2)
        words = shown.map { |line| "<b>#{line.tag}</b>  #{@words.say_tree_line(line)}" }
        words << "and #{lines.size - shown.size} limbs more" if lines.size > shown.size
        page.column_box([0, page.cursor], columns: words.size > MOST_LINES / 2 ? 2 : 1, width: page.bounds.width,
                                          height: page.cursor) do
          words.each { |text| page.text(text, inline_format: true, size: words.size > MOST_LINES ? 7.5 : 10) }
        end
      end
    end
  end
end
