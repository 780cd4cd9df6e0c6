# frozen_string_literal: true

# A limb that was to be grafted and then to come off, or to be headed back, kept the place of its graft as its cut.
Sequel.migration do
  up do
    from(:plan_limbs).where(role: %w[lift renew]).exclude(technique: nil).exclude(cut_mm: nil)
      .update(cut_mm: nil, stock_mm: nil)
  end

  # What was there is not known any more.
  down {}
end
