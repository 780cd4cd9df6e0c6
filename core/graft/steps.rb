# frozen_string_literal: true

module Vestry
  module Core
    module Graft
      # What the hands do for a method, in order, by the school's practice and this limb's figures. The steps are
      # rulebook/steps.yml.
      module Steps
        # Words in braces that stand for a number of minutes and not for a length.
        CLOCK = "clock"
        PLACE = /\{([a-z_]+)\}/

        module_function

        # @param technique [String]
        # @param figures [Hash] see Figures
        # @param stub_mm [Float]
        # @return [Array<Hash>] each +does+, its braces filled in, +second+ where it wants another pair of hands, and
        #   +clock+ (starts, stops) where a bare face begins to dry or is closed
        # @yieldparam mm [Float] a length
        # @yieldreturn [String] as it is said
        def of(technique, figures, stub_mm:, species:, school:, rulebook: Rulebook.shipped, &say)
          kind = rulebook.method_fact(technique, "cuts")
          flags = { "evergreen" => rulebook.evergreen?(species),
                    "shows" => rulebook.method_fact(technique, "shows_face") == true }
          steps = suited(kind, stub_mm, school, rulebook)
          steps.select { |step| flags.all? { |name, value| [nil, value].include?(step[name]) } }.map do |step|
            { does: filled(step["does"], figures, species, rulebook, &say), second: step["second"] == true,
              clock: step["clock"] }
          end
        end

        # The steps of a kind of cut, those of the school's practice alone.
        #
        # @return [Array<Hash>] as written in the book
        def suited(kind, stub_mm, school, rulebook)
          book = rulebook.book("steps")
          own = book.fetch("kinds").fetch(kind)
          size = stub_mm >= rulebook.value("reckoning.cuts.thick") ? "thick" : "thin"
          (book.fetch("ready") + own + book.fetch("binding")).select do |step|
            [nil, size].include?(step["size"]) && (step["kinds"].nil? || kinds(step, book).include?(kind)) &&
              (step["when"] || {}).all? { |point, wanted| wanted.include?(rulebook.practice(point, school)) }
          end
        end

        # The kinds of cut that a step is limited to, also by the name of their list.
        def kinds(step, book) = step["kinds"].is_a?(String) ? book.fetch(step["kinds"]) : step["kinds"]

        def filled(words, figures, species, rulebook)
          RulebookProse.fill(words, rulebook).gsub(PLACE) do
            name = Regexp.last_match(1)
            next rulebook.value("species.#{species}.clock").to_s if name == CLOCK

            yield figures.fetch(name.to_sym)
          end
        end
        private_class_method :suited, :kinds, :filled
      end
    end
  end
end
