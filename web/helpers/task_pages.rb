# frozen_string_literal: true

module Vestry
  module Web
    module Helpers
      # Which page a task is of, and where it is done that is not done by pressing so.
      module TaskPages
        # @param of [Records::Graft, Records::Wound]
        def task_page(of) = of.is_a?(Records::Wound) ? to("repair", "/#{of.id}") : to("tend", "/grafts/#{of.id}")

        # @return [Array(String, String), nil] address and words; nil where it is done by pressing
        def task_done_at(of, words)
          case Core::Tend::Rules.done_by(words)
          when "log" then [log_address(of, words["logs"]), "Log it"]
          when "plan" then ["#{task_page(of)}#again", "Plan it again"]
          when "count" then [to("tally", "/grafts/#{of.id}"), "Count it"]
          when "set" then ["#{task_page(of)}/log", "Log it"]
          when "look" then [task_page(of), "Looked"]
          end
        end

        # The same, where that is another page than the task's own.
        def task_done_off_page(of, words)
          at = task_done_at(of, words)
          at unless at.nil? || at.first.sub(/#.*/, "") == task_page(of)
        end

        # Where another is logged on a graft's limb, into a young shoot of it.
        def log_address(graft, method)
          shoot = Core::Plan::Methods.drawn_stock(method, nil, orchard.rulebook)
          to("graft", "/limbs/#{graft.limb_id}?technique=#{method}&sticks=1&stub=#{Rack::Utils.escape(length(shoot))}")
        end
      end
    end
  end
end
