# frozen_string_literal: true

module Vestry
  module Web
    module Contracts
      # An answer to an exercise as its form has it: numbers in fields, and what is pressed as boxes.
      module PracticeAnswer
        MOST = 60
        private_constant :MOST

        module_function

        # @return [Hash] as the exercise's contract takes it, not yet checked
        # @raise [Deeds::Refused] for what is no number
        def read(exercise, params) = send(:"read_#{exercise.tr('-', '_')}", params)

        def read_to_wood(params) = { faces: (1..4).filter_map { |n| face(params, n) } }
        def read_right_way(params) = { turned: numbers(params["turned"]), **seconds(params["seconds"]) }
        def read_seat(params) = { in_mm: number(params["in"]) }
        def read_line_up(params) = { in_mm: number(params["in"]), tilt_deg: number(params["tilt"]) }
        def read_where_to_cut(params)
          { at_mm: number(params["at"]), **%w[first torn].to_h { |name| [name.to_sym, params[name].to_s[0, 20]] } }
        end
        def read_bridge(params)
          { scions: (1..12).filter_map { |n| scion(params, n) }, turned: numbers(params["turned"]),
            trim_mm: params["trim"].to_s.strip.empty? ? 0.0 : number(params["trim"]) }
        end

        def scion(params, place)
          return nil unless params.key?("at_#{place}")

          { bearing_deg: number(params["at_#{place}"]) % 360, length_mm: number(params["long_#{place}"]) }
        end

        def read_face(params)
          { base_mm: number(params["base"]), side: params["side"].to_s[0, 20],
            points: params["points"].to_s[0, 8000].split.first(400).map { |pair| point(pair) } }
        end

        def point(pair)
          at, depth = pair.split(":", 2)
          { at_mm: number(at), depth_mm: number(depth) }
        end

        def read_hands(params) = { x_mm: number(params["x"]), y_mm: number(params["y"]) }
        def read_order(params)
          clock = %w[starts stops].reject { |which| params[which].to_s.strip.empty? }
          { order: params["order"].to_s[0, 200].split.map { |id| whole(id) },
            **clock.to_h { |which| [which.to_sym, whole(params[which])] } }
        end
        def read_read_graft(params) = { choice: params["choice"].to_s[0, 20] }
        def read_which_face(params)
          { bearings_deg: (1..4).filter_map { |n| params["at_#{n}"] && number(params["at_#{n}"]) % 360 } }
        end
        def read_ten_years(params)
          ids = params.keys.filter_map { |key| key.to_s[/\Aspring_([A-Z])\z/, 1] }.first(12)
          { nurse_off: whole(params["nurse_off"]), limbs: ids.map { |id| planned(params, id) } }
        end

        def planned(params, id)
          { id: id, spring: whole(params["spring_#{id}"]), sticks: whole(params["sticks_#{id}"]),
            braced: params["braced_#{id}"].to_s == "yes" }
        end

        def read_seal(params) = { sealed: numbers(params["sealed"]) }
        def read_which_shoot(params) = { cuts: list(params["cut"]).map { |id| cut(params, whole(id)) } }

        def read_shoot(params)
          { from_mm: number(params["from"]), to_mm: number(params["to"]), buds: numbers(params["bud"]),
            cuts: params["cuts"].to_s[0, 400].split.map { |mm| number(mm) } }
        end

        def seconds(typed) = typed.to_s.empty? ? {} : { seconds: number(typed) }

        def face(params, place)
          return nil unless params.key?("depth_#{place}")

          { at_deg: number(params["at_#{place}"]) % 360, depth_mm: number(params["depth_#{place}"]) }
        end

        def cut(params, id)
          up = params["up_#{id}"].to_s
          { shoot: id, up_mm: up.strip.empty? ? 0.0 : number(up) }
        end


        def numbers(given) = list(given).map { |id| whole(id) }
        def list(given) = given.is_a?(Array) ? given.first(MOST) : []
        def whole(text) = Integer(text.to_s[0, 9], 10, exception: false) || wrong(text)
        def number(text) = Float(text.to_s[0, 20].tr(",", ".").strip, exception: false) || wrong(text)

        def wrong(text)
          raise Deeds::Refused, answer: ["“#{text.to_s.scrub('?')[0, 20]}” is no number: write mm, such as 1.4"]
        end
        private_class_method(*singleton_methods(false) - %i[read])
      end
    end
  end
end
