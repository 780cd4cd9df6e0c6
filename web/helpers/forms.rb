# frozen_string_literal: true

module Vestry
  module Web
    module Helpers
      # Fields that say what is allowed, keep what was typed, and show what is wrong beside it.
      module Forms
        # What every form sends besides: its token, and the units of the page it was typed on.
        def csrf_field
          %(<input type="hidden" name="authenticity_token" value="#{csrf_token}">#{units_field if orchard})
        end

        def units_field = %(<input type="hidden" name="page_units" value="#{orchard.units}">)
        private :units_field

        # The session's own token, unmasked: one page asked for twice is the same to the byte, so that it can
        # carry an ETag. Pages are not compressed together with what a stranger can put into them.
        def csrf_token
          @csrf_token ||= begin
            Rack::Protection::AuthenticityToken.token(env["rack.session"])
            env["rack.session"][:csrf]
          end
        end

        # A key made with the form, so that sending it twice does the thing once.
        def client_key(reading) = reading.typed["client_key"] || SecureRandom.uuid

        # Varieties to choose from, those this stock bears first, each with how it lasts.
        #
        # @param also [Integer, nil] one that is decided already, however it lasts
        def variety_options(tree, also: nil)
          order = %w[good workable doubtful refused]
          orchard.varieties_in_sight.filter_map do |variety|
            value = orchard.rulebook.compatibility(tree.species, variety.species)["value"]
            next if value == "refused" && variety.id != also

            lock = ", protected" if Records::VarietyFit.unpermitted?(variety)
            [order.index(value), variety.id, "#{variety.name}#{" (#{value})" unless value == 'good'}#{lock}"]
          end.sort.map { |_, id, words| [id, words] }
        end

        # What stands in a field of a form that is written out: what was typed, where that form was refused.
        #
        # @param action [String] the form's address
        # @param standing [Object] what else stands there
        def typed_in(action, name, standing = nil)
          sent_to?(action) && params.key?(name) ? params[name].to_s[0, Contracts::Form::MOST] : standing
        end

        # Whether a box of such a form is ticked, or one of its choices is taken.
        def chosen_in(action, name, value, standing = nil) = typed_in(action, name, standing).to_s == value.to_s

        # What is wrong with its fields, where it was this form that was refused.
        def wrong_in(action, errors, *names)
          words = sent_to?(action) ? errors.values_at(*names).compact.flatten : []
          words.empty? ? "" : %(<p class="error">#{Rack::Utils.escape_html(words.join('; '))}</p>)
        end

        def sent_to?(action) = request.post? && request.path == action

        # The same for a form whose rows have no key of their own.
        def once_field = %(<input type="hidden" name="once" value="#{SecureRandom.uuid}">)

        # Each field of a page has an id of its own, though two forms name theirs alike.
        def field_id(name)
          times = (@field_ids ||= Hash.new(0))[name] += 1
          times == 1 ? "f-#{name}" : "f-#{name}-#{times}"
        end

        # A field that stands in a sentence, its label for those who do not see where it stands.
        #
        # @param empty [String] what is shown while nothing is chosen or typed
        def inline_field(reading, name, label, kind: :text, **facts)
          erb(:inline_field, layout: false, locals: { reading: reading, name: name, label: label, kind: kind,
                                                      value: reading.shown(name), options: [], empty: "…", size: 8,
                                                      required: false, **facts }).strip
        end

        # What else is asked of some methods alone.
        ASKED_OF = { "donor" => ->(book, method) { book.method_fact(method, "donor") },
                     "bark" => ->(book, method) { book.value("methods.#{method}.needs_slip") },
                     "buds" => ->(book, method) { book.works_at?(method, "shoot") },
                     "sticks" => lambda { |book, method|
                       !book.works_at?(method, "shoot") && !book.method_fact(method, "donor")
                     },
                     "stub" => ->(book, method) { book.heads?(method) },
                     "whole" => ->(book, method) { !book.heads?(method) },
                     "wood" => ->(book, method) { !book.method_fact(method, "donor") } }.freeze

        def asked_of?(point, method) = ASKED_OF.fetch(point).call(orchard.rulebook, method)

        # For which of the methods that can be chosen a part of a form is asked: the others hide it.
        #
        # @param point [String] a practice point of how a graft is finished, or one of ASKED_OF
        # @return [String] attributes
        def only_methods(methods, chosen, point)
          asked_of = ASKED_OF.fetch(point) do
            ->(_, method) { Core::Graft::GraftKind.finishes(method).include?(point) }
          end
          asked = methods.select { |method| asked_of.call(orchard.rulebook, method) }
          %( data-methods="#{asked.join(' ')}"#{' hidden' unless asked.include?(chosen)})
        end

        # @param pictured [Hash, nil] +what+ is measured, +limb+ of which, and +other+, the field that takes what lies
        #   across it: the figure may come from a picture
        def field(reading, name, label, kind: :text, **facts)
          erb :field, layout: false, locals: { reading: reading, name: name, label: label, kind: kind,
                                               value: reading.shown(name), hint: nil,
                                               options: [], echo: false, required: false, pictured: nil, **facts }
        end

        # What the script that measures in a picture is told of a field.
        #
        # @param pictured [Hash, nil] +what+, +limb+ or +tree+, and what else the field wants: see measure.js
        def pictured_facts(pictured, label)
          return "" unless pictured && may?("grafter")

          tree = pictured[:tree] || pictured[:limb].tree
          facts = { pictured: pictured[:what], limb: pictured[:limb]&.id, name: label, units: orchard.units,
                    photos: to("survey", "/trees/#{tree.id}/photos"), **pictured.slice(:other, :name, :plain),
                    **picture_scale }
          facts.compact.map { |key, value| %( data-#{key}="#{Rack::Utils.escape_html(value.to_s)}") }.join
        end

        # The card's size, and how much askew a picture may be.
        def picture_scale
          card = orchard.rulebook.value("reckoning.pictured.card")
          { card: card.values_at("width", "height").join(" "),
            astray: orchard.rulebook.value("reckoning.pictured.askew"),
            thumb: orchard.rulebook.value("reckoning.pictured.mark") }
        end
      end
    end
  end
end
