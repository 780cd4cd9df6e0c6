# frozen_string_literal: true

module Vestry
  module Drawings
    # The drawings' own rules out of the pages' stylesheet, in plain colours.
    module DrawingStyles
      STYLES = File.join(ROOT, "web/public/vestry.css")
      # What of a style an SVG knows.
      KNOWN = /\A(fill|stroke|opacity|font|text-anchor|paint-order|visibility|display)/
      # Selectors of pages, and of what moves under a pointer.
      NOT_DRAWN = /@|:has|:hover|:focus|::|>\s*summary/
      private_constant :STYLES, :KNOWN, :NOT_DRAWN

      module_function

      # @return [Array<Array(String, String)>] a selector and what it says
      def all
        @all ||= begin
          rules = rules(File.read(STYLES))
          @colours = colours(rules)
          rules.select { |selector, _| selector.include?(".") && !selector.match?(NOT_DRAWN) }
            .flat_map { |selector, body| selector.split(",").map { |one| [one.strip, drawn(body)] } }
            .reject { |_, body| body.empty? }
        end
      end

      # Those that speak of these classes alone.
      #
      # @param classes [Array<String>]
      def of(classes)
        all.select { |selector, _| selector.scan(/\.([\w-]+)/).flatten.all? { |name| classes.include?(name) } }
      end

      def colours(rules)
        rules.select { |selector, _| selector.include?(":root") }.flat_map { |_, body| body.split(";") }
          .filter_map { |line| line.split(":", 2) if line.start_with?("--") }.to_h
      end

      def drawn(body)
        body.split(";").map { |line| line.split(":", 2) }
          .select { |name, value| name&.match?(KNOWN) && !value.match?(/grid|flex/) }
          .map { |name, value| "#{name}:#{plain(value)}" }.join(";")
      end

      # Flat rules in order: within layers, and where colours may be mixed; none for narrow pages or paper.
      def rules(css)
        found = []
        until css.empty?
          head, rest = css.split("{", 2)
          break unless rest

          body, css = block(rest)
          head = head.sub(%r{/\*.*?\*/}m, "").strip.sub(/\A@[a-z]+ [^;{]*;/, "").strip
          if head.start_with?("@layer", "@supports (color:color-mix") then found.concat(rules(body))
          elsif !head.start_with?("@") then found << [head, body]
          end
        end
        found
      end

      # Up to the brace that closes it, and what follows.
      def block(text)
        depth = 1
        text.each_char.with_index do |char, i|
          depth += 1 if char == "{"
          depth -= 1 if char == "}"
          return [text[0...i], text[(i + 1)..]] if depth.zero?
        end
        [text, ""]
      end

      COLOUR = /(#\h{3,8}|transparent)/
      MIX = /color-mix\(in srgb, *#{COLOUR} *(\d+)%, *#{COLOUR}\)/
      VARIABLE = /var\((--[a-z-]+)\)/
      private_constant :COLOUR, :MIX, :VARIABLE

      def plain(value)
        while value.match?(VARIABLE)
          value = value.gsub(VARIABLE) { @colours.fetch(Regexp.last_match(1), "currentColor") }
        end
        value = value.gsub(MIX) { mixed(*Regexp.last_match.captures) } while value.match?(MIX)
        value
      end

      def mixed(one, share, other)
        weight = share.to_f / 100
        return "#{one}#{format('%02x', (weight * 255).round)}" if other == "transparent"

        "##{hex(one).zip(hex(other)).map { |a, b| format('%02x', (a * weight + b * (1 - weight)).round) }.join}"
      end

      def hex(colour)
        colour.delete("#").then { |digits| digits.size == 3 ? digits.chars.map { |each| each * 2 }.join : digits }
          .scan(/../).first(3).map do |pair|
          pair.to_i(16)
        end
      end
      private_class_method :colours, :drawn, :rules, :block, :plain, :mixed, :hex
    end
  end
end
