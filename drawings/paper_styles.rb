# frozen_string_literal: true

module Vestry
  module Drawings
    # A drawing's styles for paper, said by each of its parts: to look rules up is what takes long there.
    module PaperStyles
      HALO = %w[stroke paint-order].freeze
      private_constant :HALO

      module_function

      # @param document [Nokogiri::XML::Document] without namespaces
      # @param rules [Array<Array(String, String)>] the narrower one counts, and of two alike the later
      def put(document, rules)
        said = Hash.new { |all, node| all[node] = [] }
        rules.each_with_index.sort_by { |(selector, _), i| [selector.count(".#"), selector.split.size, i] }
          .each { |(selector, body), _| document.css(selector).each { |node| said[node] << plain(body) } }
        said.each { |node, bodies| node["style"] = [*bodies, node["style"]].compact.join(";") }
      end

      # Words need no edge of the ground's colour, which not every reader of SVG draws behind them; and what is seen
      # through is its colour on white.
      def plain(body)
        lines = body.split(";")
        lines = lines.reject { |line| line.start_with?(*HALO) } if body.include?("paint-order")
        lines.join(";").gsub(/#(\h{6})(\h{2})\b/) { on_white(*Regexp.last_match.captures) }
      end

      def on_white(colour, share)
        "##{colour.scan(/../).map { |part| format('%02x', 255 - (255 - part.hex) * share.hex / 255) }.join}"
      end
      private_class_method :plain, :on_white
    end
  end
end
