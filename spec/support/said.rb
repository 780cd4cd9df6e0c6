# frozen_string_literal: true

require "nokogiri"

# What a page says: its sentences, each as it stands. The smallest thing that holds one is taken, and not what is only
# a figure or a word.
module Said
  PLACES = "main h1.now, main p, main li, main dd, main .straw, main figcaption, main td"
  # Every station's own pages.
  STATIONS = %w[today survey plan wood wood/list wood/match wood/nursery slip slip/crew graft graft/sheet tend
                tend/nurses tally repair practice settings].freeze
  private_constant :PLACES

  module_function

  # @param body [String] a page
  # @return [Array<String>]
  def of(body)
    Nokogiri::HTML5(body).css(PLACES).filter_map do |node|
      next if node.css("p, li, td, form").any?

      said = node.text.gsub(/\s+/, " ").strip
      said if said.size >= 12 && said.include?(" ")
    end
  end
end
