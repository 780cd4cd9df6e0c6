# frozen_string_literal: true

module Vestry
  module Web
    module Admin
      # The rulebook, page by page, with what this orchard has overruled.
      class RulebookPages < Base
        PAGES = { "schools" => "Schools and practice points", "methods" => "Methods", "species" => "Species",
                  "materials" => "Materials",
                  "compatibility" => "What grafts on what", "care" => "Aftercare", "repair" => "Stripped trunks",
                  "cause" => "Why grafts fail", "site" => "Place and calendar", "reckoning" => "Reckoning",
                  "cautions" => "Cautions" }.freeze

        helpers do
          def shipped = Core::Rulebook.shipped

          # One entry's own page, where it is overruled.
          def show(path, reading = nil)
            point = path.start_with?("practice.") && shipped.book("schools")
              .dig("points", path.delete_prefix("practice."))
            raise Records::Missing if path.start_with?("practice.") && !point
            entry = point ? nil : orchard.rulebook.entry(path)

            laid, learned = [orchard.overrides, orchard.learned].map { |each| each.to_h[path] }
            erb :"rulebook/entry", locals: { path: path, point: point, entry: entry, laid: laid, learned: learned,
                                             reading: reading || Contracts::Form.blank(value: stands(path, entry)) }
          rescue KeyError
            raise Records::Missing
          end

          # What holds now, as it is typed: a value, or a choice of practice.
          def stands(path, entry)
            entry ? said(entry.value) : orchard.rulebook.practice(path.delete_prefix("practice."), orchard.school)
          end

          # A value as it is read, and typed: a range, a list, one by name, a number.
          def said(value)
            [true, false].include?(value) ? (value ? "yes" : "no") : Core::RulebookProse.figures(value)
          end

          # A value in the unit in which the book keeps it and it is overruled, and in this orchard's beside it.
          def with_unit(value, unit)
            kept = Core::RulebookProse.with_unit(said(value), unit)
            here = book_figure(value, unit)
            unit && kept != here && orchard.units == "imperial" ? "#{kept} (#{here})" : kept
          end

          # What an entry is called: its place in the book, in words.
          def entry_name(path)
            book, *rest = path.split(".")
            return "practice › #{shipped.book('schools').dig('points', *rest, 'name')}" if book == "practice"

            words = rest.map { |word| word.tr("_-", "  ") }
            if book == "species"
              words = [species_name(rest[0]), shipped.book("species").dig("figures", rest[1], "name").downcase]
            end
            words = [method_name(rest[0]), *words.drop(1)] if book == "methods"
            [book, *words].join(" › ")
          end

          # Every entry at a place of the book and below it.
          def entries_of(path, node)
            return [orchard.rulebook.entry(path)] if node.key?("value")

            node.flat_map { |key, inside| inside.is_a?(Hash) ? entries_of("#{path}.#{key}", inside) : [] }
          end

          def entry_link(path, words)
            %(<a href="#{to('rulebook', "/entry/#{path}")}">#{Rack::Utils.escape_html(words)}</a>)
          end
          def laid?(path) = orchard.overrides.to_h.key?(path)
        end

        get("/") { erb :"rulebook/index", locals: { laid: orchard.overrides.to_h } }

        get("/entry/:path") { show(params["path"].to_s) }

        post "/entry/:path" do
          path = params["path"].to_s
          again = lambda do |e|
            raise Records::Missing if e.errors.key?(:path)
            show(path, Contracts::FormResult.new(values: {}, errors: e.errors,
                                                    typed: { "value" => params["value"].to_s,
                                                        "why" => params["why"].to_s }, form: {}))
          end
          attempt(again) do
            if params["back"]
              Deeds::Overrule.take_back(orchard, path, by: actor)
              notice "Back to the rulebook's own."
            else
              Deeds::Overrule.call(orchard, path, params["value"], why: params["why"], by: actor, today: today)
              notice "This orchard's own value holds from now on."
            end
            redirect to("rulebook", "/entry/#{path}")
          end
        end

        get "/:page" do
          page = params["page"]
          raise Records::Missing unless PAGES.key?(page)

          erb :"rulebook/#{page}"
        end
      end
    end
  end
end
