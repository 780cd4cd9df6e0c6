# frozen_string_literal: true

module Vestry
  module Web
    module Helpers
      # What was measured in photos, in words, and an opening's photos from year to year.
      module Pictures
        # Of the longest opening, shown round it.
        ROOM = 1.4
        NAMES = { "girth" => "Girth", "stub" => "Stub across", "stick" => "Stick across",
                  "union" => "Thick above the union", "opening" => "Open wound", "margin" => "Margin",
                  "shoot" => "Longest shoot" }.freeze
        private_constant :ROOM, :NAMES

        def measured_name(measure) = NAMES.fetch(measure.what)

        # Its figures, each with how far off it may be.
        def measured_facts(measure)
          error = "± #{length([measure.error_mm, 0.1].max)}"
          case measure.what
          when "girth" then { "Girth" => measure.girth_mm.map { |mm| length(mm) }.join(" ± ") }
          when "opening" then { "Longest" => "#{length(measure.a_mm)} #{error}",
                                "Across it" => length(measure.b_mm.to_f),
                                "Area" => area(measure.area_mm2.to_f) }
          else { NAMES.fetch(measure.what) => "#{length(measure.mean_mm)} #{error}" }
          end
        end

        def measured_words(measure)
          name, words = measured_facts(measure).first
          measure.what == "opening" ? "open #{words}, #{length(measure.b_mm.to_f)} across" : "#{name.downcase} #{words}"
        end

        # Each opening that was marked, to one scale.
        #
        # @return [Array<Hash>] +measure+, +side_mm+, +view+ and +words+
        def openings(limb)
          found = Records::PictureMeasure.openings(limb)
          side = ((found.map(&:a_mm).max || 0) * ROOM).ceil.clamp(10, 1000)
          found.map do |measure|
            { measure: measure, side_mm: side, view: Core::Survey::FlatView.of(measure.asked, side_mm: side),
              words: "#{whole_day(measure.photo.taken_on)}: #{measured_words(measure)}" }
          end
        end
      end
    end
  end
end
