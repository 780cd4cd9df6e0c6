# frozen_string_literal: true

module Vestry
  module Web
    module Contracts
      # An answer to an exercise as its form has it: numbers in fields, and what is pressed as boxes.
      module PracticeAnswer
        MOST = 60
        private_constant :MOST

        # The fields of what the core names otherwise; any other is the field's name and its unit.
        FIELDS = { "bearing" => "at", "length" => "long", "bearings" => "at", "shoot" => "cut" }.freeze
        # What is chosen, and not written.
        CHOSEN = %i[choice first torn side].freeze
        private_constant :FIELDS, :CHOSEN

        module_function

        # What the core will not take, by the form's fields; under +answer+ what is wrong with the whole.
        #
        # @param refused [Hash{Symbol=>Array<String>}] by the field's path in the core's contract
        # @param params [Hash] as they came
        # @return [Hash{Symbol=>Array<String>}]
        def errors(refused, params)
          refused.to_h do |path, words|
            field = field_of(path.to_s, params)
            [field, CHOSEN.include?(field) ? ["choose one"] : words]
          end
        end

        # "faces[0].depth_mm" is typed in depth_1, "limbs[1].spring" in spring_B, "cuts[2]" in cuts.
        def field_of(path, params)
          list, place, part = path.match(/\A([a-z_]+)(?:\[(\d+)\])?(?:\.([a-z_]+))?\z/)&.captures
          name = (part || list || path).sub(/_(?:mm|deg)\z/, "")
          name = FIELDS.fetch(name, name)
          return :"up_#{Array(params['cut'])[place.to_i]}" if name == "up"

          numbered = place && params.keys.grep(/\A#{name}_[A-Z0-9]+\z/).sort_by { |key| [key.size, key] }[place.to_i]
          [numbered, name, list].compact.map(&:to_sym)
            .find { |each| params.key?(each.to_s) || CHOSEN.include?(each) } || :answer
        end

        # @return [Hash] as the exercise's contract takes it, not yet checked
        # @raise [Deeds::Refused] for what is no number
        def read(exercise, params) = send(:"read_#{exercise.tr('-', '_')}", params)

        def read_to_wood(params) = { faces: (1..4).filter_map { |n| face(params, n) } }
        def read_right_way(params) = { turned: numbers(params, "turned"), **seconds(params) }
        def read_seat(params) = { in_mm: length(params, "in") }
        def read_line_up(params) = { in_mm: length(params, "in"), tilt_deg: number(params, "tilt") }
        def read_where_to_cut(params)
          { at_mm: length(params, "at"), **%w[first torn].to_h { |name| [name.to_sym, params[name].to_s[0, 20]] } }
        end
        def read_bridge(params)
          { scions: (1..12).filter_map { |n| scion(params, n) }, turned: numbers(params, "turned"),
            trim_mm: params["trim"].to_s.strip.empty? ? 0.0 : length(params, "trim") }
        end

        def scion(params, place)
          return nil unless params.key?("at_#{place}")

          { bearing_deg: number(params, "at_#{place}") % 360, length_mm: length(params, "long_#{place}") }
        end

        def read_face(params)
          { base_mm: length(params, "base"), side: params["side"].to_s[0, 20],
            points: params["points"].to_s[0, 8000].split.first(400).map { |pair| point(pair, params) } }
        end

        def point(pair, params)
          at, depth = pair.split(":", 2).map { |text| length_in("points", text, params) }
          { at_mm: at, depth_mm: depth || wrong("points", pair, "write how far along and how deep, such as 40:3") }
        end

        def read_hands(params) = { x_mm: length(params, "x"), y_mm: length(params, "y") }
        def read_order(params)
          clock = %w[starts stops].reject { |which| params[which].to_s.strip.empty? }
          { order: params["order"].to_s[0, 200].split.map { |id| whole_in("order", id) },
            **clock.to_h { |which| [which.to_sym, whole(params, which)] } }
        end
        def read_read_graft(params) = { choice: params["choice"].to_s[0, 20] }
        def read_which_face(params)
          { bearings_deg: (1..4).filter_map { |n| params["at_#{n}"] && number(params, "at_#{n}") % 360 } }
        end
        def read_ten_years(params)
          ids = params.keys.filter_map { |key| key.to_s[/\Aspring_([A-Z])\z/, 1] }.first(12)
          { nurse_off: whole(params, "nurse_off"), limbs: ids.map { |id| planned(params, id) } }
        end

        def planned(params, id)
          { id: id, spring: whole(params, "spring_#{id}"), sticks: whole(params, "sticks_#{id}"),
            braced: params["braced_#{id}"].to_s == "yes" }
        end

        def read_seal(params) = { sealed: numbers(params, "sealed") }
        def read_which_shoot(params) = { cuts: numbers(params, "cut").map { |id| cut(params, id) } }

        def read_shoot(params)
          { from_mm: length(params, "from"), to_mm: length(params, "to"), buds: numbers(params, "bud"),
            cuts: params["cuts"].to_s[0, 400].split.map { |text| length_in("cuts", text, params) } }
        end

        def seconds(params) = params["seconds"].to_s.empty? ? {} : { seconds: number(params, "seconds") }

        def face(params, place)
          return nil unless params.key?("depth_#{place}")

          { at_deg: number(params, "at_#{place}") % 360, depth_mm: length(params, "depth_#{place}") }
        end

        def cut(params, id)
          up = "up_#{id}"
          { shoot: id, up_mm: params[up].to_s.strip.empty? ? 0.0 : length(params, up) }
        end

        # Boxes that were pressed.
        def numbers(params, name)
          given = params[name]
          given.is_a?(Array) ? given.first(MOST).map { |id| whole_in(name, id) } : []
        end

        def whole(params, name) = whole_in(name, params[name])
        def length(params, name) = length_in(name, params[name], params)
        def number(params, name) = number_in(name, params[name])

        def whole_in(name, text)
          Integer(text.to_s[0, 9].strip, 10, exception: false) || wrong(name, text, "write a whole number, such as 2")
        end

        def number_in(name, text)
          Float(text.to_s[0, 20].tr(",", ".").strip, exception: false) || wrong(name, text, "write it as 12 or 1.4")
        end

        # A number without a unit is in the form's: mm, unless it says +in+.
        def length_in(name, text, params)
          units = params["unit"] == "in" ? "imperial" : "metric"
          Core::Measure.parse(text.to_s[0, 20], units: units, field: name.to_sym, most: Core::Measure::THIN_TO).mm
        rescue Core::BadInput => e
          raise Deeds::Refused, name.to_sym => [e.allowed]
        end

        def wrong(name, text, how)
          typed = text.to_s.scrub("?").strip
          typed = typed.empty? ? "nothing was typed" : "“#{typed[0, 20]}” is no number"
          raise Deeds::Refused, name.to_sym => ["#{typed}; #{how}"]
        end
        private_class_method(*singleton_methods(false) - %i[read errors])
      end
    end
  end
end
