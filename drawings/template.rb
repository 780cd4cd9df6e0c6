# frozen_string_literal: true

require "tilt"
require "tilt/erubi"

module Vestry
  module Drawings
    # Renders a drawing's strokes (an ERB file beside its class) over its figures.
    module Template
      TEMPLATES = Hash.new do |known, name|
        known[name] = Tilt::ErubiTemplate.new(File.join(__dir__, "#{name}.svg.erb"), escape_html: true, trim: true)
      end

      def self.render(name, drawing, **words) = TEMPLATES[name].render(drawing, words)
    end
  end
end
