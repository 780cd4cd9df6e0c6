# frozen_string_literal: true

module Vestry
  module Sheets
    # A crew's day on paper: what to carry, then a card for each stub in walking order.
    class DayPaper
      CARD = 118
      PICTURE = 92
      # How a stick is filled, so that what lies beneath its edge is seen, and all else is written.
      STICK = "d0d0d0"
      INK = "000000"

      # @param sheet [Records::DaySheet]
      # @param words [#length, #thickness, #method_name, #bearing, #day, #say_material, #mind_bleeding] how things are
      #   said
      # @param size [String] a4 or letter
      def initialize(sheet, orchard, words, size: "a4")
        @sheet = sheet
        @orchard = orchard
        @words = words
        @size = size
      end

      def pdf
        Paper.print(@size, title: "#{@orchard.name}, #{@words.whole_day(@sheet.day)}") do |page|
          heading(page)
          load(page)
          @sheet.trees.each do |tree, cards|
            tree(page, tree, cards)
            @sheet.sites(tree).each { |row| site(page, tree, row) }
          end
          page.number_pages("#{@orchard.name}, #{@words.whole_day(@sheet.day)}   <page> of <total>", at: [0, -14],
                            align: :right, size: 8)
        end
      end

      private

      # The sticks that go on a stub, or that there are none.
      def wood_words(card)
        own = @words.own_wood(card) and return own
        return "none matched#{" (short of #{card.short})" if card.short.positive?}" if card.given.empty?

        given = card.given.map { |each| "#{each.stick.label} #{@words.thickness(each.diameter_mm)}" }
        "#{given.join(', ')}#{" (short of #{card.short})" if card.short.positive?}"
      end

      def heading(page)
        page.text("#{@orchard.name}: #{@words.whole_day(@sheet.day)}", size: 18, style: :bold)
        page.text(@sheet.cards.empty? ? "Nothing is to be grafted on this day." :
                  "#{@words.counted(@sheet.cards.size, 'stub')} on #{@words.counted(@sheet.trees.size, 'tree')}, " \
                  "about #{(@sheet.minutes / 60.0).round(1)} hours of work. Who: ______________________")
        page.move_down 6
      end

      def load(page)
        return if @sheet.cards.empty?

        page.text("To carry", size: 12, style: :bold)
        things = @sheet.materials.map { |each| @words.say_material(each).join(" ") }
        page.text(things.join("; "))
        if @sheet.bundles.any?
          wood = @sheet.bundles.map { |bundle, count| "#{bundle.code} #{bundle.variety.name} (#{count})" }
          page.text("Wood: #{wood.join('; ')}")
        end
        @sheet.day_cautions.each do |name|
          @orchard.rulebook.book("cautions")[name].then { |each| page.text("<b>#{each['title']}.</b> #{each['text']}",
            inline_format: true, size: 9) }
        end
        page.move_down 8
      end

      def tree(page, tree, cards)
        page.start_new_page if page.cursor < CARD + 24
        page.stroke_horizontal_rule
        page.move_down 4
        page.text(tree.label, size: 14, style: :bold)
        cards.each { |each| card(page, each) }
      end

      def card(page, card)
        go_on(page, card.tree) if page.cursor < CARD
        top = page.cursor
        page.bounding_box([PICTURE + 12, top], width: page.bounds.width - PICTURE - 12) do
          page.text("#{card.limb.label}  #{card.row.variety.name}", style: :bold, size: 12)
          lines(card).each { |line| page.text(line) }
        end
        below = page.cursor
        stub(page, card, top)
        page.move_cursor_to([below, top - PICTURE].min - 8)
      end

      # A bare stretch has no stub to be drawn.
      def site(page, tree, row)
        go_on(page, tree) if page.cursor < CARD / 2
        page.indent(PICTURE + 12) do
          page.text("#{tree.label} #{row.site.tag}  #{row.variety&.name}", style: :bold, size: 12)
          page.text(@words.say_site(row))
          page.text("Done  [  ]   across ______   stick ______   bark: clean / reluctant / none   by ______")
        end
        page.move_down 8
      end

      # The rest of a tree on another page, which says whose it is.
      def go_on(page, tree)
        page.start_new_page
        page.text("#{tree.label}, continued", size: 14, style: :bold)
      end

      def lines(card)
        o = card.place
        [
          "Points #{@words.bearing(card.limb.bearing_deg)}. #{place(card)}.",
          "#{@words.method_name(card.row.technique)}, #{@words.set_words(card.row.technique, o.stick_count)}: " \
          "#{wood_words(card)}.",
          ("Tape: #{card.colour}." if card.colour),
          mind(card),
          "Done  [  ]   stub ______   stick ______   bark: clean / reluctant / none   by ______"
        ].compact
      end

      def mind(card)
        bleeding = @words.mind_bleeding(card.limb, card.row.technique, seen: card.bleeds)
        said = [card.cautions.join(", "), bleeding.to_s].reject(&:empty?)
        "Mind: #{said.join('; ')}." if said.any?
      end

      # Where it is cut or set.
      def place(card)
        o, long = card.place, card.row.long_cut_mm
        "#{@words.place_words(card.row.technique).capitalize} #{@words.length(o.at_mm)} from the fork, " \
          "#{@words.about_length(o.height_mm)} up; #{@words.thickness(o.stock_mm)} thick " \
          "there#{", back from #{@words.length(long)}" if long}"
      end

      # The stub to its own scale, with its sticks, as it is drawn on its page; the upper side, or north, is up.
      def stub(page, card, top)
        middle, o = [PICTURE / 2.0, top - PICTURE / 2.0], card.place
        drawn = Drawings::Stub.new(card.limb, stock_mm: o.stock_mm, faces: o.faces, upright: o.upright,
                                              technique: card.row.technique)
        times = (PICTURE / 2.0 - 16) / drawn.bark_radius
        page.line_width = 1
        [drawn.bark_radius, drawn.wood_radius].each { |radius| page.stroke_circle(middle, radius * times) }
        page.fill_color = STICK
        drawn.sticks.each do |stick|
          page.fill_and_stroke_circle(on_paper(drawn, stick, middle, times), stick[:r] * times)
        end
        page.fill_color = INK
        page.draw_text(o.upright ? "N" : "up", at: [middle[0] - 5, top - 9], size: 8)
      end

      # A place of the drawing, whose middle lies there; up is more on paper.
      def on_paper(drawn, place, middle, times)
        [middle[0] + (place[:x] - drawn.middle) * times, middle[1] - (place[:y] - drawn.middle) * times]
      end
    end
  end
end
