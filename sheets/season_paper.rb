# frozen_string_literal: true

require "prawn"

module Vestry
  module Sheets
    # An orchard's season on paper: what was done, what took, what was lost, each tree that was worked
    # with its drawing, and the trunks that were mended.
    class SeasonPaper
      MOST_TREES = 40
      # As large as lets a limb's tag be read, three to a page.
      PICTURE = [285, 225].freeze

      # @param words [#length, #percent, #method_name, #day, #counted, #say] how figures are said
      # @param size [String] a4 or letter
      def initialize(orchard, today, season, words, size: "a4")
        @orchard = orchard
        @today = today
        @season = season
        @words = words
        @size = size
        @outcomes = Records::Outcomes.new(orchard, today, season: season)
      end

      def pdf
        Paper.print(@size, title: "#{@orchard.name}, #{@season}") do |page|
          summary(page)
          took(page)
          lost(page)
          trees(page)
          trunks(page)
          page.number_pages("#{@orchard.name}, season #{@season}   <page> of <total>", at: [0, -14], align: :right,
                            size: 8)
        end
      end

      private

      def cause_words(graft)
        return @words.loss_name(graft.lost_cause) if graft.lost_cause

        graft.tallies.last&.breakage || graft.visits.last&.note || "no cause recorded"
      end

      def wound_words(told)
        done = if told.wound.repaired_on
                 @words.say_course_done(told.course).downcase
               else
                 @words.say_verdict(told.triage[:verdict])
               end
        living = "#{told.living.size} of #{told.wound.seated.size} scions live" if told.fates.any?
        [done, @words.say_stands(told.mending[:state])].join("; ") + (living ? ", #{living}" : "")
      end

      def span = @orchard.season.span(@season)
      def grafts
        @grafts ||= Records::GraftQueries.of_span(@orchard, span, by: @today)
      end

      def summary(page)
        page.text("#{@orchard.name}: the season #{@season}", size: 20, style: :bold)
        page.move_down 4
        page.text(made)
        page.text(known(@outcomes.total)) if grafts.any?
        page.move_down 10
      end

      def made
        return "Nothing was grafted in this season." if grafts.empty?

        first, last = grafts.map(&:grafted_on).minmax.map { |day| @words.whole_day(day) }
        "#{@words.counted(grafts.size, 'stub')} #{grafts.size == 1 ? 'was' : 'were'} grafted " \
          "on #{@words.counted(grafts.map { |graft| graft.limb.tree_id }.uniq.size, 'tree')}, " \
          "by #{@words.listed(grafts.map(&:grafter).uniq.sort)}, " \
          "#{first == last ? "on #{first}" : "between #{first} and #{last}"}."
      end

      def known(total)
        return "No fate is known yet." if total[:trials].zero?

        rate, low, high = total.values_at(:rate, :low, :high).map { |share| @words.percent(share) }
        "Of #{total[:trials]} whose fate is known #{total[:takes]} took: #{rate}, and the true rate lies between " \
          "#{low} and #{high}."
      end

      def took(page)
        { "method" => "By method", "variety" => "By variety", "grafter" => "By grafter" }.each do |by, title|
          lines = @outcomes.by(by)
          next if lines.empty?

          heading(page, title)
          page.text(@words.say(@outcomes.weighed(by)[:claim]), size: 9)
          table(page, ["", "took", "of", "rate", "between"],
                lines.first(12).map { |line| [line[:kind].to_s, line[:takes].to_s, line[:trials].to_s,
                                              @words.percent(line[:rate]),
                                              "#{@words.percent(line[:low])} and #{@words.percent(line[:high])}"] },
                [200, 50, 50, 60, 130])
        end
      end

      def lost(page)
        gone = grafts.select { |graft| graft.fate == "lost" }
        return if gone.empty?

        heading(page, "What was lost")
        gone.first(30).each do |graft|
          page.text("#{graft.limb.label}, #{graft.variety.name}: " \
                    "#{cause_words(graft)}")
        end
        page.text("and #{gone.size - 30} more") if gone.size > 30
        page.move_down 8
      end

      def trees(page)
        worked = grafts.group_by { |graft| graft.limb.tree_id }
        return if worked.empty?

        page.start_new_page
        page.text("Tree by tree", size: 14, style: :bold)
        full = @orchard.trees_in_full(worked.keys.first(MOST_TREES)).sort_by { |tree| [tree.row, tree.number] }
        full.each { |tree| tree(page, tree, worked.fetch(tree.id)) }
        if worked.size > MOST_TREES
          page.text("and #{@words.counted(worked.size - MOST_TREES, 'tree')} more; their pages are in the application")
        end
      end

      def stands(tree) = Drawings::DrawnLimb.all(tree, planning: @orchard.season_to_plan(@today))

      # The drawing beside a line for each graft.
      def tree(page, tree, made)
        wide, high = PICTURE
        page.start_new_page if page.cursor < high + 14
        page.stroke_horizontal_rule
        page.move_down 4
        top = page.cursor
        TreePicture.draw(page, tree, stands(tree), at: [0, top], wide: wide, high: high)
        page.bounding_box([wide + 14, top], width: page.bounds.width - wide - 14) do
          page.text("#{tree.label}", size: 13, style: :bold)
          made.sort_by { |graft| graft.limb.tag }.each { |graft| page.text(graft_words(graft), inline_format: true) }
        end
        page.move_cursor_to([page.cursor, top - high].min - 8)
      end

      def graft_words(graft)
        "<b>#{graft.limb.tag}</b>  #{graft.variety.name}, " \
          "#{@words.method_name(graft.technique).downcase}: #{fate(graft)}"
      end

      def fate(graft)
        tally = graft.tallies.find { |each| each.season == @season }
        unless tally&.alive
          return { "took" => "took", "lost" => "lost", "waiting" => "not known yet" }.fetch(graft.fate)
        end

        closure = Records::CoreInputs.closure(graft)
        "grew #{@words.length(tally.growth_mm)}" \
        "#{"; stub #{@words.percent(closure[:closed_share])} closed" if tally.open_a_mm}"
      end

      def trunks(page)
        wounds = @orchard.stripped_trunks(@today).all.select do |told|
          span.cover?(told.wound.found_on) || (told.wound.repaired_on && span.cover?(told.wound.repaired_on))
        end
        return if wounds.empty?

        heading(page, "Stripped trunks")
        wounds.each do |told|
          page.text("#{told.wound.label}: #{@words.percent(told.share)} " \
                    "bare, #{wound_words(told)}")
        end
      end

      def heading(page, words)
        page.start_new_page if page.cursor < 90
        page.move_down 4
        page.text(words, size: 12, style: :bold)
      end

      def table(page, head, rows, widths)
        page.move_down 3
        [head, *rows].each_with_index do |row, i|
          page.start_new_page if page.cursor < 16
          top = page.cursor
          row.each_with_index do |cell, c|
            page.draw_text(cell, at: [widths.first(c).sum, top - 9], size: 9, style: i.zero? ? :bold : :normal)
          end
          page.move_down 13
        end
        page.move_down 6
      end
    end
  end
end
