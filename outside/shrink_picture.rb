# frozen_string_literal: true

# Shrinks one picture, in a process of its own that is ended when it takes too much room or time.
#   ruby shrink_picture.rb FILE LARGE_FILE LARGE_SIDE SMALL_FILE SMALL_SIDE MOST_PIXELS
# Ends with 0 when both are written, with 2 when it is no photo, with 3 when it has too many points.
file, large_file, large_side, small_file, small_side, most_pixels = ARGV
ENV["VIPS_CONCURRENCY"] = "1"
require "vips"
Vips.block_untrusted(true) if Vips.respond_to?(:block_untrusted)
Vips.cache_set_max(0)

loaders = %w[jpegload pngload webpload heifload]
begin
  header = Vips::Image.new_from_file(file, access: :sequential)
  exit 2 unless loaders.include?(header.get("vips-loader").sub(/_(file|buffer|source)\z/, ""))
  exit 3 if header.width * header.height > most_pixels.to_i

  # What was sent is decoded once: the small one is made of the large one.
  large = Vips::Image.thumbnail(file, large_side.to_i, size: :down, fail_on: :truncated)
  large = large.flatten(background: 255) if large.has_alpha?
  large.jpegsave(large_file, Q: 84, strip: true)
  Vips::Image.thumbnail(large_file, small_side.to_i, size: :down).jpegsave(small_file, Q: 84, strip: true)
rescue Vips::Error
  exit 2
end
